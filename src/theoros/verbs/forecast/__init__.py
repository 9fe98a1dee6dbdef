"""Forecast: a series in time, its parts, and what comes next."""

from theoros.verbs.forecast.verb import VERB

__all__ = ["VERB"]
