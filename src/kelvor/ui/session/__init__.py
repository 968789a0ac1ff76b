"""The open board: its brief, its versions, what lies behind it."""
