"""The Station stage."""
