"""Keeping files: written whole or not at all, locked, read within limits, named safely."""
