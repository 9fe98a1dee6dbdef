"""Probability: a situation with its distribution, and all parts of the question about it."""

from theoros.verbs.probability.statement import VERB

__all__ = ["VERB"]
