"""A table full of radios: who sits there, which radio is whose, what in it is somebody's own."""
