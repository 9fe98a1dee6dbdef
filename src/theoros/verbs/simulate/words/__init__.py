"""What is said of a simulation."""
