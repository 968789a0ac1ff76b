"""Hulls that float: friction, waves, and a board's resistance before it planes."""
