"""An example of each arrangement on the demo tables, for the manual and for a test."""

from __future__ import annotations

from theoros.verbs.core.json_values import Json

EXAMPLES: tuple[Json, ...] = (
    {
        "verb": "make long", "table": "tasters", "columns": ["score before", "score after"],
        "value": "score", "source": "when", "name": "scores",
    },
    {"verb": "make wide", "table": "orders", "value": "how many", "by": "room"},
    {"verb": "indicators", "table": "bushes", "by": "netting", "levels": ["netted"]},
    {
        "verb": "new column", "table": "bushes", "name": "gain", "unit": "mg/mm",
        "formula": "1000 * leaf mass / leaf length",
    },
    {
        "verb": "classes", "table": "bushes", "what": "elevation", "how": "given cuts",
        "cuts": "350 450", "name": "height",
    },
    {
        "verb": "recode", "table": "bushes", "by": "grade", "levels": ["fair", "coarse"],
        "to": "everyday", "name": "use",
    },
    {"verb": "sort", "table": "bushes", "first": "grade", "second": "pluck mass",
     "second_way": "down"},
    {
        "verb": "keep rows", "table": "bushes", "column1": "netting", "relation1": "is",
        "value1": "netted", "joiner": "and", "column2": "elevation", "relation2": "at least",
        "value2": "400",
    },
    {"verb": "along the rows", "table": "visits", "what": "visitors", "way": "average", "rows": 12},
    {"verb": "random sample", "table": "bushes", "size": 30, "seed": 7},
    {
        "verb": "random values", "table": "bushes", "name": "sound seals",
        "law": {"kind": "binomial", "n": 12, "p": 0.85},
    },
    {
        "verb": "join", "table": "bushes", "key": "netting", "other_table": "orders",
        "other_key": "room", "rows": "all",
    },
    {"verb": "count up", "table": "bushes", "by": "netting", "and_by": "grade"},
    {"verb": "spread out", "table": "orders", "count": "how many"},
    {"verb": "transpose", "table": "tasters", "names": "taster"},
)  # fmt: skip
