"""The ride, phase by phase: which figures decide each phase of a discipline."""
