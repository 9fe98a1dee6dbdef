"""What is said of a series and its forecast."""
