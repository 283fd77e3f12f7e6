"""Transfers that run: read, compare, write, restore, by the way in of the chosen radio."""
