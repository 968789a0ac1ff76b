"""Days on the water, tracks, tests, and what the workshop's own boards say of the figures."""
