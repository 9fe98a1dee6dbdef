"""The words of a description: of a number, and of its shape."""
