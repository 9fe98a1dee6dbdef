"""Models of chance, a module each."""
