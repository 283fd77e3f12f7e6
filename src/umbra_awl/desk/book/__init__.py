"""The log as the window uses it: read, written, undone."""
