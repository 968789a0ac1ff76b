"""The board as a solid."""
