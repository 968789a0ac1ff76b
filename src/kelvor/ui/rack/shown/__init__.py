"""The rack's words and rows, without a window."""
