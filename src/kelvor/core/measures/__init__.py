"""Size, rocker and volume read off a board, and what is usual of them."""
