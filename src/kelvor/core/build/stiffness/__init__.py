"""Stiffness along the board: bending and twist of every section, deflection under load, frequency, local checks."""
