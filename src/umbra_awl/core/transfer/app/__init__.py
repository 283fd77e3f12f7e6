"""The way over a phone app: its own list beside the radio's, taken, merged, handed back, read back from the radio it mirrors."""
