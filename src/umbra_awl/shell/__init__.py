"""The shell: what can be done without the window."""
