"""Sails, kites and wings held by hand."""
