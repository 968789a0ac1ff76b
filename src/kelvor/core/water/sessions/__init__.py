"""Sessions, and the gear ridden in them."""
