"""What the field fixes: frequencies, bands, tones, call signs, DMR numbers."""
