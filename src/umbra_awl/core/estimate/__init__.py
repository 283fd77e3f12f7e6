"""Estimates with the numbers behind them: reach, RF exposure, battery."""
