"""Where the way to a radio breaks, and its firmware."""
