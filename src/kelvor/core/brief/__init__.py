"""The brief: who rides, with what, where, and what the board must do."""
