"""Days on the water."""
