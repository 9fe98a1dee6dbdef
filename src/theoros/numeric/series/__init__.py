"""Series in time: moving averages, exponential smoothing."""
