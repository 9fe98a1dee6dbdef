"""Planning: how often a claim would be found at a true value, and how many cases that takes."""
