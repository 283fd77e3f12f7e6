"""A simulated phone whose app sits beside a radio."""
