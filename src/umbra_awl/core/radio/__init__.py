"""The model of a radio: its profile and display, its keypad, its memory."""
