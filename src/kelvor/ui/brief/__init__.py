"""The Brief view."""
