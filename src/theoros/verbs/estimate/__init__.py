"""Estimate: how large something is, and how sure that is."""

from theoros.verbs.estimate.verb import VERB

__all__ = ["VERB"]
