"""The Log stage: what was proven on the air, and the entries it rests on."""
