"""Describe: the figures that sum up a number, for each group."""

from theoros.verbs.describe.verb import VERB

__all__ = ["VERB"]
