"""A key-up followed through every hop."""
