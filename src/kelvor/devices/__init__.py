"""Devices outside the machine: what they say on their line, and a stand-in for each that ships with Kelvor."""
