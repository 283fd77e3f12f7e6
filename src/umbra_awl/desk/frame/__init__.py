"""The window around the stages."""
