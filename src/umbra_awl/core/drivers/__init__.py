"""Drivers of the operator's own: found by entry points, loaded only where switched on, their failures contained."""
