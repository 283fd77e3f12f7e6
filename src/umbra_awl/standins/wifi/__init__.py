"""A simulated home, phone and hotspot, with the Wi-Fi between them."""
