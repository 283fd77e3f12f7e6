"""The open plan, what is selected, and what is worked out of it; what can be done is asked of the workbench."""
