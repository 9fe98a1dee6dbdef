"""Distributions: one module a family, all of one kind of value (see `distribution`)."""
