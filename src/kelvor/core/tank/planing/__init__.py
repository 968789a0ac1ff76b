"""Planing bottoms."""
