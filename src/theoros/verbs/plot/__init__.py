"""Plot: the rows themselves as a picture."""

from theoros.verbs.plot.verb import VERB

__all__ = ["VERB"]
