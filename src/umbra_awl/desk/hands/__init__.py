"""Plans from many hands in the window: merging, following a club's plan, club packs."""
