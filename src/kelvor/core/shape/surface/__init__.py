"""Sections, surface and what is integrated over them."""
