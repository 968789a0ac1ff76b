"""Boards over one another: where their lines part, and what of it would be felt."""
