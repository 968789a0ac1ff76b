"""What lifts under water: fins and foils."""
