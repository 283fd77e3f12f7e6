"""Which crossings are possible; zones; names."""
