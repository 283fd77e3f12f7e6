"""A simulated hotspot: a small computer with a board, on loopback."""
