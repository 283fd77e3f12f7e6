"""The Hotspots stage: where it may stand, what must match, its offset, Wi-Fi away from home, finding it, the phone."""
