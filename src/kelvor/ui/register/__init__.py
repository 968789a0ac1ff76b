"""The Register view."""
