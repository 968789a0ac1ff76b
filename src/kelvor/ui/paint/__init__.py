"""Strokes, charts and drawings all rooms paint with."""
