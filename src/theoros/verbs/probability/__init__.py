"""Probability: a situation with its distribution, and all parts of the question about it."""

from theoros.verbs.probability.verb import VERB

__all__ = ["VERB"]
