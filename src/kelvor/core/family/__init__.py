"""Families of boards: sizes by rules, what they have in common, and what a range is for."""
