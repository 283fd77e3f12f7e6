"""Files of other programs, both ways, and bringing a programmed radio in."""
