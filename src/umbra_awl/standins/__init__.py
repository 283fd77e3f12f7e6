"""Simulated devices: own processes that speak only open protocols."""
