"""First boards by discipline and school."""
