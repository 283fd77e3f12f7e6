"""Where the keyboard is, goes, and stays."""
