"""Benchmarks: each figure is a ratio to a limit measured in the same run. `python -m bench` prints the table."""
