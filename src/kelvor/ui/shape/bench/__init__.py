"""The bench a board is drawn on."""
