"""What leaves the program."""
