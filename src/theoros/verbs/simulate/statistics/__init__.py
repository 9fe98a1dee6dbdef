"""The statistics that can be taken of a sample, and what theory says of them."""
