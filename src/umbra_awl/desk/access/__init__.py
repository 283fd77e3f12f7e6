"""The Access stage: what is on the air around a place, and the directory behind it."""
