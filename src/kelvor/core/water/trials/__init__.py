"""Tests on the water: planned for what they can show, run in a balanced order, and answered no further than that."""
