"""The interface: one package a stage, shared widgets, theme, workers."""
