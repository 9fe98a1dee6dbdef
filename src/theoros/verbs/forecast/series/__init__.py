"""The series of a statement, and how it is read from a table."""
