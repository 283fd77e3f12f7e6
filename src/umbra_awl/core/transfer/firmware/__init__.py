"""Firmware: which variant is in a radio, which the plan wants and what that costs, the way there, loading it."""
