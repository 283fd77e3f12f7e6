"""By the phone's app: its list taken, merged, handed over, proven."""
