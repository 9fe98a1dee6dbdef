"""The procedures that answer a question about data; a module each, which registers itself."""
