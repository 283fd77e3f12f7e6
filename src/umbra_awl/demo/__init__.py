"""The Velmar Isles scenario as data."""
