"""Reading and writing tables in open formats."""
