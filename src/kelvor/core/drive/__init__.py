"""What drives a board: sails, hand wings and kites, paddles, tow lines, slopes of water."""
