"""Tokens, fonts and the style sheet."""
