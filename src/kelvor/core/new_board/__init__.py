"""Starting points: sizes proposed from a brief, first boards of every family, boards from measurements."""
