"""The plan as a file of the desktop: opened, dropped, changed from outside, left."""
