"""Whether a shape is fair, clear and can be built."""
