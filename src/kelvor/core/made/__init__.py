"""Boards that are made: weighed, measured, scanned, scheduled, proved, ordered."""
