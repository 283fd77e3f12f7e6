"""Its offset: readings and the curve."""
