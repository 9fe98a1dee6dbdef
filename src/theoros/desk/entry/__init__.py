"""An entry on the desk: its statement, its picture, its figures, its Reading."""
