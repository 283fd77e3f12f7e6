"""The four modes, one module each: what opens an access point, what it reaches, what a channel holds, how it is said."""
