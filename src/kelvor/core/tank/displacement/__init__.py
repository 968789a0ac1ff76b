"""Resistance of a hull that displaces water."""
