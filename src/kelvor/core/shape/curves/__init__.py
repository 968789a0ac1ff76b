"""Curves along a board: battens, schedules, outlines, places."""
