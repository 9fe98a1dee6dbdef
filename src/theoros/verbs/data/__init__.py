"""The ways of having data: rows in groups, or figures that were typed."""
