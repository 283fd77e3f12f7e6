"""Finding a hotspot on a network, and asking it."""
