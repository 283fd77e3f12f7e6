"""Carrying a memory into a radio: link, image, merge, difference, backups."""
