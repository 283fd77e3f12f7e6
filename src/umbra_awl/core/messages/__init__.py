"""Texts and pictures over the air: what they cost before they are sent, and their way block by block."""
