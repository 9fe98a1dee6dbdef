"""That an association is no cause is said by every verb in one wording, unless rows were assigned at random."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import make_table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.cautions import NOT_A_CAUSE
from theoros.verbs.core.registry import statement_from_json

RNG = np.random.default_rng(7)
X, Z = RNG.uniform(1, 9, (2, 40))
SEEN = make_table("t", x=X.tolist(), z=Z.tolist(), y=(2 * X + Z + RNG.normal(0, 1, 40)).tolist())
ASKED = {
    "a line": {"verb": "model", "what": "y", "against": "x"},
    "several predictors": {"verb": "model", "what": "y", "against": "x", "also": ["z"]},
    "a correlation": {"verb": "plot", "what": "y", "against": "x", "shape": "scatter"},
    "correlations of several columns": {"verb": "describe", "what": "y", "also": ["x", "z"]},
}


@pytest.mark.parametrize("slots", ASKED.values(), ids=ASKED)
def test_no_cause_is_named_unless_assigned_at_random(slots: dict) -> None:
    for sampling, times in (("", 1), ("random sample", 1), ("random assignment", 0)):
        table = SEEN.with_(sampling=sampling)
        found = answer(statement_from_json({"table": "t", **slots}), {"t": table}).reading
        text = " ".join([found.headline, *found.paragraphs, *found.cautions])
        assert text.replace("\u00a0", " ").count(NOT_A_CAUSE) == times, (sampling, text)
