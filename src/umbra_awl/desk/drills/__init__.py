"""Drills in the window: the boxes, a fault to find in a window of its own, a keypad, short questions."""
