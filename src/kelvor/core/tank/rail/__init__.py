"""Turning and landing: the rail on the water, the bottom that meets it."""
