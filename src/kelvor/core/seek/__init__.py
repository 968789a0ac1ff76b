"""The least change of a board that meets what is asked of it, or the nearest it comes and what stands in the way."""
