"""Methods of forecasting, a module each, and their fits to one series."""
