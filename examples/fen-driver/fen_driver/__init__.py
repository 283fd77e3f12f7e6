"""A driver for an invented radio, the Fen 20."""
