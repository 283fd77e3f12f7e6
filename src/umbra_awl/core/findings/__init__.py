"""Rules that tell what is wrong or doubtful, why, and how to mend it."""
