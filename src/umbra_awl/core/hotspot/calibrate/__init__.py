"""The offset of a hotspot from counted bit errors: where it lies, how sure that is, what to try next."""
