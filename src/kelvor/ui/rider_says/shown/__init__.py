"""Answers to what a rider says, in words."""
