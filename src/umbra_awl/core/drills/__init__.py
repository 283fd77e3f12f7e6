"""Drills: honest faults to find, memories to key in, fields and figures to know, and when each comes back."""
