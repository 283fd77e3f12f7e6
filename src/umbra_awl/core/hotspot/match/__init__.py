"""What plan, radio and hotspot must agree on; the hotspot's own settings in anybody's keys."""
