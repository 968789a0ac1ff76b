"""Tests of one difference: planned, gathered, answered."""
