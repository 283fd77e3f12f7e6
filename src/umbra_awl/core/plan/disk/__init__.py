"""A plan on disk: its form, its journal, whole saves, what comes back after a kill."""
