"""Kelvor: a bench for board designers."""

__version__ = "0.14.3"
