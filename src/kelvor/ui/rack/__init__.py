"""The rack: all boards of a workshop on one page."""
