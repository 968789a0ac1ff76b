"""The solid view: the board in three dimensions. Loaded on first use only."""
