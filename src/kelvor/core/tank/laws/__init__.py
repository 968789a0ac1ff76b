"""Wind, friction, lattices, wings, and the coefficients of the tank."""
