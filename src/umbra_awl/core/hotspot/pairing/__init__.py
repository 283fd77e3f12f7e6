"""Pairing of phone and radio as a machine of states; the phone as a gateway; what supports what."""
