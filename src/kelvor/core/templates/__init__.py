"""What is drawn and cut of a board: marks, rail bands, cutting lines, reshaping."""
