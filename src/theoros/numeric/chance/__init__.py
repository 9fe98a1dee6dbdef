"""Models of chance: what is drawn in one sample, and the statistics of samples."""
