"""The Build view."""
