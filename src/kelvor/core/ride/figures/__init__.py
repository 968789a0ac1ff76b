"""What each figure of a ride is called, in which words it is told, and what its method leaves open."""
