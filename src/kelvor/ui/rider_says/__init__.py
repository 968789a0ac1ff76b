"""What the rider says, and what answers it."""
