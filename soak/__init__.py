"""Long trials of what must never give way: `./run soak [MINUTES]`."""
