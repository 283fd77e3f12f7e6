"""Bringing an existing radio in: from a memory to access points, destinations, routes and zones."""
