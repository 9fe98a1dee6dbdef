"""Ways of an interval: from a question with a confidence to its ends, a module for each kind."""
