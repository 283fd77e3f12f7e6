"""The Routes stage."""
