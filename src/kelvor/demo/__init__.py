"""An invented workshop to look at and to test with."""
