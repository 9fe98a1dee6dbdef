"""Arrange: statements that put a table in shape; one module for each arrangement."""
