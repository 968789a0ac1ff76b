"""The Shape view."""
