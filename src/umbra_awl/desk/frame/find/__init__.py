"""The find-or-do box: what it offers, and how that is ranked."""
