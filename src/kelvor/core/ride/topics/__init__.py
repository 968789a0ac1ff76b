"""What is told of a ride: figures and pictures, topic by topic."""
