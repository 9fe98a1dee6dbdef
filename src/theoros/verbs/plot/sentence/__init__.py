"""The fields of a plot and its sentence."""
