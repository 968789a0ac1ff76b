"""What drives a board: sails, hand wings and kites."""
