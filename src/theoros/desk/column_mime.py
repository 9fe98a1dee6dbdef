"""How a column is named while it is dragged from one part of the window to another."""

COLUMN_MIME = "application/x-theoros-column"
