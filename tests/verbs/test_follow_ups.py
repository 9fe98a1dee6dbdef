"""What can come next: every slot of a factory is a slot of the statement that it makes."""

from __future__ import annotations

import inspect
from typing import Any

import pytest

from theoros.verbs import follow_ups
from theoros.verbs.core.json_values import to_plain_values
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.data.two_columns import TwoColumns
from theoros.verbs.data.two_numbers import TwoNumbers

FACTORIES = {
    name: made
    for name, made in vars(follow_ups).items()
    if inspect.isfunction(made) and made.__module__ == follow_ups.__name__ and not name.startswith("_")
}
GIVEN: dict[str, Any] = {
    "table": "trays", "what": "loss", "by": "shed", "and_by": "row", "against": "mass", "shape": "scatter",
    "also": ("mass",), "data": TwoColumns("loss", "mass"), "parameter": "mean", "method": "pooled t",
    "alternative": "less", "null": 0.5, "alpha": 0.1, "claimed": "1, 2", "drawn": follow_ups.ChanceSettings(777, 9),
    "replicates": 777, "seed": 9,
    "confidence": 0.8, "share": 0.3, "ask": "at most", "middle": 0.7, "n": 8,
    "p": 0.25, "counts": "sound seals", "each": "crate", "parts": ("exactly 2",), "name": "new", "formula": "loss + 1",
}  # fmt: skip
NESTED = {"watch_claim": "model", "watch_resamples": "", "binomial": "situation"}
"""Where a factory puts what is not a slot of the statement itself."""
WAYS = {"watch_claim": "shuffled labels", "watch_resamples": "percentile"}


@pytest.mark.parametrize("name", sorted(FACTORIES))
def test_what_is_given_is_what_its_statement_holds(name: str) -> None:
    factory = FACTORIES[name]
    given = {key: GIVEN[key] for key in inspect.signature(factory).parameters}
    if "method" in given:
        given["method"] = WAYS.get(name, given["method"])
    made = factory(**given)
    inner = getattr(made, NESTED[name]) if NESTED.get(name) else made
    drawn = given.pop("drawn", None)
    if drawn is not None:
        assert (made.replicates, made.seed) == (777, 9)
    for key, value in given.items():
        nested = hasattr(inner, key) and (key in ("null", "claimed") or not hasattr(made, key))
        assert getattr(inner if nested else made, key) == value, key
    # and it is one that could stand in a file
    assert to_plain_values(statement_from_json(made.to_json())) == to_plain_values(made)


def test_a_test_is_of_data_that_fit_it() -> None:
    made = follow_ups.hypothesis_test(TwoNumbers("y", "x"), "slope", "t of a slope", table="t")
    assert (made.verb, made.data.against, made.method) == ("test", "x", "t of a slope")
