"""Floating: the balance of board, foil and rider in still water."""
