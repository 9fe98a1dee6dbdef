"""Formulas: a small grammar of our own for new columns and for conditions on rows.

`parse` makes a tree of text, `evaluate` makes values of a tree, a column at a time. Nothing is
ever handed to Python to run; a formula is short, has no loops, and so ends.
"""

from theoros.table.formula import functions  # noqa: F401 - fills the list of functions
from theoros.table.formula.evaluate import Worked, evaluate, evaluate_for_each, truth
from theoros.table.formula.grammar import parse
from theoros.table.formula.tokens import FormulaError, columns_in, quoted, renamed
from theoros.table.formula.words import in_words

__all__ = [
    "FormulaError",
    "Worked",
    "columns_in",
    "evaluate",
    "evaluate_for_each",
    "in_words",
    "parse",
    "quoted",
    "renamed",
    "truth",
]
