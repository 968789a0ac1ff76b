"""Tracks of a watch: cleaned, their best windows, the wind found in them."""
