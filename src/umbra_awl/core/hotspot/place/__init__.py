"""Where a hotspot may stand: a score for every channel of a band, with its reasons."""
