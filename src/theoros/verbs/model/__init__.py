"""Model: one number from another, by a curve; its predictions, its groups, its residuals."""

from theoros.verbs.model.verb import VERB

__all__ = ["VERB"]
