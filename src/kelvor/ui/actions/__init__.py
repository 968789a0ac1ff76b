"""Actions as data."""
