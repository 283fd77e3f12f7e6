"""Wi-Fi away from home, rehearsed."""
