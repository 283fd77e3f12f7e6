"""Umbra Awl: one plan of access points and destinations, fitted to every radio you own."""

__version__ = "0.9.0"
