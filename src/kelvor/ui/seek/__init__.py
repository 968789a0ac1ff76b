"""Seeking boards, and trading one wish for another."""
