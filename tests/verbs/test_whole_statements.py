"""A statement as a whole: parameter, data, way and direction fit each other, or it is refused in words."""

from __future__ import annotations

import json
import re
from dataclasses import replace
from itertools import product

import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import Answer, answer_json
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.data.data import data_kinds
from theoros.verbs.parameters.parameter import ONE_SIDED, parameters
from theoros.verbs.procedures.procedure import compared, default_procedure, procedures, procedures_for

TABLES = {table.name: table for table in demo_study().tables}
TABLES["plots"] = make_table(
    "plots", "plot",
    plot=[f"P{k}" for k in range(12) for _ in range(2)],
    dose=["low", "high"] * 12,
    crop=[float(20 + (k * 7) % 11 + 3 * (k % 2)) for k in range(24)],
)  # fmt: skip
_SAMPLE = {"name": "A", "n": 12, "mean": 5.1, "sd": 1.2}
_OTHER = {"name": "B", "n": 15, "mean": 4.2, "sd": 1.5}
_LEVELS = {"what": "leaf mass", "by": "netting", "first": "netted", "second": "open"}
DATA: dict[str, tuple[str, dict]] = {
    "one column": ("bushes", {"what": "leaf mass"}),
    "typed sample": ("", {"measure": "mass", "groups": [_SAMPLE]}),
    "typed values": ("", {"measure": "mass", "values": "3.1 4.5 2.2 6.7 5.0 4.4 3.9 5.5 4.1 6.0"}),
    "two levels": ("bushes", _LEVELS),
    "two columns": ("tasters", {"what": "score before", "other": "score after", "design": "separate"}),
    "pairs": ("tasters", {"what": "score before", "other": "score after"}),
    "pairs by name": ("plots", {"what": "crop", "by": "dose", "first": "low", "second": "high", "case": "plot"}),
    "two typed samples": ("", {"measure": "mass", "groups": [_SAMPLE, _OTHER]}),
    "typed differences": ("", {"measure": "mass", "groups": [_SAMPLE]}),
    "levels": ("bushes", {"what": "leaf mass", "by": "cultivar"}),
    "two factors": ("bushes", {"what": "leaf mass", "by": "cultivar", "and_by": "netting"}),
    "several typed samples": ("", {"measure": "mass", "groups": [_SAMPLE, _OTHER, {**_OTHER, "name": "C"}]}),
    "several columns": ("tasters", {"columns": ["score before", "score after"]}),
    "counts of levels": ("bushes", {"what": "cultivar"}),
    "typed counts": ("", {"levels": [{"name": "red", "count": 12}, {"name": "blue", "count": 20}]}),
    "classes of a number": ("bushes", {"what": "leaf mass", "width": 4}),
    "two categories": ("bushes", {"what": "cultivar", "by": "netting"}),
    "typed two-way counts": ("", {"rows": ["a", "b"], "columns": ["x", "y"], "counts": [[12, 5], [7, 14]]}),
    "count columns": ("tasters", {"labels": "taster", "columns": ["score before", "score after"]}),
    "level": ("bushes", {"what": "netting", "level": "netted"}),
    "two numbers": ("bushes", {"what": "leaf mass", "against": "leaf length"}),
    "typed share": ("", {"success": "rust", "groups": [{"x": 12, "n": 40}]}),
    "typed correlation": ("", {"one": "height", "two": "mass", "n": 20, "r": 0.4}),
    "level in two groups": ("bushes", {"what": "grade", "level": "fine", "by": "netting", "first": "netted", "second": "open"}),
    "typed shares": ("", {"success": "rust", "groups": [{"name": "a", "x": 12, "n": 40}, {"name": "b", "x": 7, "n": 38}]}),
}  # fmt: skip


def asked(verb: str, kind: str, **more) -> Answer:
    table, fields = DATA[kind]
    made = {"verb": verb, "table": table, "data": {"kind": kind, **fields}, **more}
    return answer(statement_from_json(json.loads(json.dumps(made))), TABLES)


def test_every_kind_of_data_is_walked() -> None:
    assert set(DATA) == set(data_kinds())


@pytest.mark.parametrize(("verb", "kind"), list(product(("test", "estimate"), DATA)))
def test_a_way_answers_about_its_own_parameter_or_is_refused_by_slot_and_remedy(verb: str, kind: str) -> None:
    purpose = "test" if verb == "test" else "interval"
    family, typed = data_kinds()[kind].family, data_kinds()[kind].bare()
    some = {} if verb == "test" else {"replicates": 40, "share": 0.5, "population": 5000}
    few = {"replicates": 100, "null": 0.5 if family in ONE_SIDED else 0} if verb == "test" else some
    for parameter in parameters():
        fits = parameter in compared(family, purpose)
        ways = {name for name in procedures(purpose) if fits} if fits else {"", next(iter(procedures(purpose)))}
        suit = {one.name for one in procedures_for(family, typed=typed, purpose=purpose) if parameter in one.compares}
        for way in sorted(ways):
            found = asked(verb, kind, parameter=parameter, **({"method": way} if way else {}), **few)
            said = f"{verb} {parameter}, {kind}, {way}: {found.problem}"
            if way in suit:
                assert found.problem is None, said
                assert way in found.numbers or "cannot be used here" in found.reading.headline, said
            else:
                assert found.problem is not None, said
                assert found.problem.slot in ("method", "parameter"), said
                assert re.search("Choose|It can be", found.problem.sentence), said


@pytest.mark.parametrize("kind", [kind for kind in DATA if data_kinds()[kind].family in ("one sample", "one share")])
@pytest.mark.parametrize("verb", ["test", "simulate"])
def test_a_value_under_h0_that_nobody_gave_is_asked_for(verb: str, kind: str) -> None:
    """30 of 50 against nothing was set against one half, a mean against 0."""
    for parameter in compared(data_kinds()[kind].family, "test"):
        if not parameters()[parameter].directed:
            continue
        model = {"model": {"kind": "claim"}} if verb == "simulate" else {}
        found = asked(verb, kind, parameter=parameter, **model)
        assert found.problem is not None
        where = "model.null" if verb == "simulate" else "null"
        assert found.problem.slot in (where, "method", "parameter"), found.problem
        assert not found.numbers


@pytest.mark.parametrize(("verb", "kind"), list(product(("test", "estimate"), DATA)))
def test_what_is_left_out_is_chosen_to_suit_the_rest(verb: str, kind: str) -> None:
    purpose = "test" if verb == "test" else "interval"
    family, typed = data_kinds()[kind].family, data_kinds()[kind].bare()
    known = compared(family, purpose)
    table, fields = DATA[kind]
    bare = statement_from_json({"verb": verb, "table": table, "data": {"kind": kind, **fields}})
    if not known:
        return
    assert bare.parameter == ("mean" if "mean" in known else known[0])
    for parameter in known:
        suits = default_procedure(parameter, family, typed=typed, purpose=purpose)
        made = statement_from_json({**bare.to_json(), "parameter": parameter})
        left_out = {name: value for name, value in made.to_json().items() if name != "method"}
        assert statement_from_json(left_out).method == suits or not suits
    for way in procedures_for(family, typed=typed, purpose=purpose):
        left_out = {name: value for name, value in bare.to_json().items() if name != "parameter"}
        assert statement_from_json({**left_out, "method": way.name}).parameter in way.compares


@pytest.mark.parametrize("kind", DATA)
def test_a_claim_without_a_direction_is_the_same_whatever_direction_is_written(kind: str) -> None:
    for parameter in compared(data_kinds()[kind].family):
        if parameters()[parameter].points(data_kinds()[kind].family):
            continue
        few = {"replicates": 100, "parameter": parameter}
        both, up, down = (asked("test", kind, alternative=way, **few) for way in ("different", "greater", "less"))
        assert both.numbers == up.numbers == down.numbers, parameter
        assert len({json.dumps(answer_json(one).get("reading")) for one in (both, up, down)}) == 1


def test_a_median_without_a_way_is_tested_as_a_median() -> None:
    found = asked("test", "two levels", parameter="median")
    table = TABLES["bushes"]
    values, netting = table.numbers("leaf mass"), table.frame["netting"].to_numpy()
    fits = values == values
    p = stats.mannwhitneyu(
        values[(netting == "netted") & fits], values[(netting == "open") & fits], method="asymptotic"
    ).pvalue
    assert found.numbers["rank sum"]["p"] == pytest.approx(p, rel=1e-9)
    assert found.reading.headline.startswith("p < 0.0001") or f"{p:.4f}" in found.reading.headline


def test_matched_columns_are_pairs_however_they_are_written() -> None:
    paired = asked("test", "pairs")
    columns = replace(data_kinds()["two columns"]("score before", "score after"), design="matched")
    made = {"verb": "test", "table": "tasters", "data": {"kind": "two columns", "what": columns.what,
            "other": columns.other, "design": "matched"}}  # fmt: skip
    found = answer(statement_from_json(made), TABLES)
    assert answer_json(found) == answer_json(paired)
    refused = answer(statement_from_json({**made, "method": "welch t"}), TABLES)
    assert refused.problem is not None
    assert refused.problem.slot == "method"
