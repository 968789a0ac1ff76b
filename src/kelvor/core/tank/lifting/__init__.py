"""Fins and foils."""
