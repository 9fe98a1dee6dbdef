"""A table on the desk: its cells, its columns, its rows one by one, its arrangements."""
