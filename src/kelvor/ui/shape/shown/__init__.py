"""The bench's words, grips and handles, without a window."""
