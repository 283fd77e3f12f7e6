"""Where a hotspot may stand on the band: the ruler, and listening first."""
