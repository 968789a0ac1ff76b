"""A rail that enters the water."""
