"""Faults planted one at a time, and whether the tests catch each."""
