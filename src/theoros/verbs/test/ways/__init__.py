"""The ways to put a claim about two centres to the test. Each module here adds itself."""
