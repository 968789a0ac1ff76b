"""Mass: what a board weighs, where that weight sits, and how it resists turning."""
