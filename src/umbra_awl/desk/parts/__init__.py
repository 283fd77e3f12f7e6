"""Widgets that several stages share."""
