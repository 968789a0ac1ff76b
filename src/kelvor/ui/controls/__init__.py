"""Fields, tables, rows and panels all rooms use."""
