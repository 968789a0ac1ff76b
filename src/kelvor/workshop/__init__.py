"""The workshop file."""
