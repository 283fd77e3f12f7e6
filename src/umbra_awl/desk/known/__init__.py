"""The directory as the window uses it: looked up, worked on in the background, kept edits and notes."""
