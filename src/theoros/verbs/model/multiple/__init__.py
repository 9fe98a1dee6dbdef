"""A number modelled by several predictors."""
