"""How a board is built: materials, mass, stiffness, cost."""
