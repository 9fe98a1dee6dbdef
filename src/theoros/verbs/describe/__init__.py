"""Describe: the figures that sum up a number, for each group."""

from theoros.verbs.describe.statement import VERB

__all__ = ["VERB"]
