"""The Transfer stage."""
