"""The views, in the order of work."""
