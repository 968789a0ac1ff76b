"""What riders say of a board, what of the ride speaks of it, and which changes might answer."""
