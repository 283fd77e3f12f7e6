"""What plan, radio and hotspot must agree on."""
