"""What a rider's watch kept: cleaned, cut into runs, its best speeds, its wind, its polar."""
