"""Words and rows several rooms show, without a window."""
