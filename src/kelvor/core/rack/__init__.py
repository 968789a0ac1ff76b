"""The rack: every board of a workshop, found by what it is, what was said of it and what became of it."""
