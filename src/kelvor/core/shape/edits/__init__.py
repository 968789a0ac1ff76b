"""Changes of a board's curves."""
