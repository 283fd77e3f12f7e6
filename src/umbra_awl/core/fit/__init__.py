"""Radio profiles, memories, fitting and its report."""
