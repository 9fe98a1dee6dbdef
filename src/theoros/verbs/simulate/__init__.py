"""Simulate: what chance alone does, watched sample by sample."""

from theoros.verbs.simulate.verb import VERB

__all__ = ["VERB"]
