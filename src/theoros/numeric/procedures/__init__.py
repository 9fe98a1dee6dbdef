"""The arithmetic of tests and intervals: means, ranks."""
