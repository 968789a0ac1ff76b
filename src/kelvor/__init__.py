"""Kelvor: a bench for board designers."""

__version__ = "0.15.0"
