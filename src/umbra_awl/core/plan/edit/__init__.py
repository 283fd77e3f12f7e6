"""Edits as pure functions with their sentences, and undo as a value."""
