"""A simulated radio with a slot for a memory card."""
