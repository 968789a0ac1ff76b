"""The parts of the Water view."""
