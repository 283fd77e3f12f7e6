"""A table day: many radios, one after another."""
