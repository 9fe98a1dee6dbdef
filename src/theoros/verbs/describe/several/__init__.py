"""Several numbers side by side."""
