"""What lies over or in place of the pages: help, words, settings, figures, the doors of an empty window."""
