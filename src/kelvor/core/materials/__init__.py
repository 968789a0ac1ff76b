"""Materials: one sourced table, micromechanics, laminate theory, and how cloth lies on a board."""
