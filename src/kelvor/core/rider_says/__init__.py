"""What a rider says, and which levers answer it."""
