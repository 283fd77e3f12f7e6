"""Fitting a plan to one radio, what did not fit and was decided, and radios compared."""
