"""The way over a memory card: its files, what is found on it, which step has been taken, reading and sending."""
