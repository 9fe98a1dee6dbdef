"""One predictor: a curve through pairs, for all cases or for each group."""
