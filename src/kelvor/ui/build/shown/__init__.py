"""Build's words and rows, without a window."""
