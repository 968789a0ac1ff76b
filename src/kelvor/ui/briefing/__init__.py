"""The parts of the Brief view: the rider and the place, what the rider owns, what the board must do."""
