"""Shape measures: size, rocker, volume, area, and what depends on them and the rider alone."""
