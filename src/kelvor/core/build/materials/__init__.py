"""Materials: one sourced table, micromechanics, laminate theory, how cloth lies on a board, and the work."""
