"""Words that all models share."""
