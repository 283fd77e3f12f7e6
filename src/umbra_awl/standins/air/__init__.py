"""Two radios and the air between: one on this computer's data port, the other in somebody's hand, with a phone."""
