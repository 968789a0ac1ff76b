"""Colours by role, fonts and icons."""
