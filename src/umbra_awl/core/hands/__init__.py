"""Plans from many hands: two plans made one against their common ancestor, a club's plan followed, a club's pack."""
