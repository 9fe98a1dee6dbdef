"""The conditions that procedures lean on; a module each, which registers itself by name."""
