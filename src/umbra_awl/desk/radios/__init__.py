"""The Radios stage."""
