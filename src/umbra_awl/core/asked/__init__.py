"""Any number asked: the formula with today's values in it, where each came from, its source, what would change it most."""
