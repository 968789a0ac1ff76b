"""Everything a user can do, and the menu made of it."""
