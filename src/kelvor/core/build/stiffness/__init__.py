"""Bending, twist, dents and loads of a built board."""
