"""Test: a claim about two means or medians, put to the test."""

from theoros.verbs.test.verb import VERB

__all__ = ["VERB"]
