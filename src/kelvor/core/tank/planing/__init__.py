"""Hulls that plane: Savitsky's laws, a lattice for rocker and hollows, and what of a board's bottom planes."""
