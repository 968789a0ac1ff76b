"""The history of a board: an append-only tree of steps."""
