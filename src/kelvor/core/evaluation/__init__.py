"""A board evaluated under its brief: live while it is dragged, then stage by stage, with verdicts and bands."""
