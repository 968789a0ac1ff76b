"""The bench: plan, profile, strip and sections, with weights to drag."""
