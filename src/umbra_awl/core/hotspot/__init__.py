"""Hotspots: which board works with which computer and system image, and what each choice costs in use."""
