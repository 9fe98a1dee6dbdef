"""Series in time: moving averages."""
