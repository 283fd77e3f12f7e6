"""The people list as a region of its own in a radio, apart from its memory: packed, written by blocks, proven by checksums."""
