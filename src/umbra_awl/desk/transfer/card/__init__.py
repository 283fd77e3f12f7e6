"""By memory card: where it is now, and the steps. What lies on it is read by the core."""
