"""A simulated radio: its own process on a pseudo-terminal, speaking the framed programming protocol."""
