"""Days on the water: the log, what was ridden, what wears, and what suits today."""
