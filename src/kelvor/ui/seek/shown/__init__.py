"""Trades in words."""
