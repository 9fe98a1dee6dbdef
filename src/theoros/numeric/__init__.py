"""Arrays in, small results out. No words, no tables, no interface."""
