"""Plot: the rows themselves as a picture."""

from theoros.verbs.plot.statement import VERB

__all__ = ["VERB"]
