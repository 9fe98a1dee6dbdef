"""What a claim, an interval or a simulation is about; a module each, which registers itself."""
