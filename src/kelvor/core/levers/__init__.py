"""What of a board can be pulled: levers as data, and layers and fittings to add."""
