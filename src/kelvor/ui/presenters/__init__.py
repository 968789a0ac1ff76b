"""What the panels show, prepared without a window."""
