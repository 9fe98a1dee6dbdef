"""The probability of a level, modelled by one predictor or more."""
