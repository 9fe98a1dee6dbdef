"""The verb Describe: figures, working and words."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import answer_json
from theoros.answer.wording import telling_apart
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.describe.counts.classes import class_limits, classes_of

DEMO = demo_study().by_name
ODD = {"t": make_table("t", "cup", v=[4.0, 1, 2, 30, 3, 5, 7, 6, None], g=["a"] * 4 + ["b"] * 5)}


def rows_of(statement, tables) -> list[dict]:
    return answer_json(answer(statement, tables))["figures"]["summary"]


def test_figures_of_the_demo_against_scipy_and_numpy() -> None:
    table = DEMO["bushes"]
    rows = rows_of(make("describe", table="bushes", what="leaf mass", by="cultivar"), DEMO)
    values, codes = table.numbers("leaf mass"), table.codes("cultivar")
    for code, row in enumerate(rows):
        mine = values[(codes == code) & np.isfinite(values)]
        ref = stats.describe(mine)
        assert row["n"] == ref.nobs
        assert row["mean"] == pytest.approx(ref.mean, rel=1e-12)
        assert row["sd"] == pytest.approx(np.sqrt(ref.variance), rel=1e-12)
        assert (row["minimum"], row["maximum"]) == ref.minmax
        assert row["median"] == pytest.approx(np.median(mine))
    assert sum(row["n"] + row["missing"] for row in rows) == 180


def test_figures_by_hand() -> None:
    # 1 2 3 4 | 5 6 7 30: Q1 2.5, Q3 6.5, IQR 4, fences -3.5 and 12.5
    (row,) = rows_of(make("describe", table="t", what="v"), ODD)
    assert (row["q1"], row["median"], row["q3"], row["iqr"]) == (2.5, 4.5, 6.5, 4)
    assert (row["lower_fence"], row["upper_fence"], row["outside"]) == (-3.5, 12.5, 1)
    assert (row["missing"], row["rows"]) == (1, [4])


def test_the_quartile_rule_is_a_slot_and_changes_the_figures() -> None:
    statement = make("describe", table="t", what="v")
    other = statement.with_slot("quartiles", "type 7", ODD).statement
    (row,) = rows_of(other, ODD)
    assert (row["q1"], row["q3"]) == (2.75, 6.25)  # as numpy.quantile has it
    assert "type 7, interpolated at 1 + (n − 1)p" in other.text(ODD)


def test_the_working_of_the_fences() -> None:
    (step,) = answer(make("describe", table="t", what="v"), ODD).working
    lines = step.to_lines()
    assert lines[0].endswith(
        "each half has 4 values; Q₁ is the mean of values 2 and 3 counted from the smallest, and Q₃ the same counted from the largest."
    )
    assert lines[2] == "IQR = Q₃ − Q₁ = 6.5 − 2.5 = 4"
    assert lines[4] == "upper fence = Q₃ + 1.5 × IQR = 6.5 + 1.5 × 4 = 12.5"
    assert lines[5] == "Outside a fence: 30 in row 4, z = 2.4."


def test_negative_quartiles_are_bracketed_in_the_working() -> None:
    tables = {"t": make_table("t", v=[-4.0, -3, -2, -1, 0, 1])}
    (step,) = answer(make("describe", table="t", what="v"), tables).working
    assert step.to_lines()[2] == "IQR = Q₃ − Q₁ = 0 − (−3) = 3"


def test_outlying_rows_are_named_and_selectable() -> None:
    reading = answer(make("describe", table="t", what="v"), ODD).reading
    assert reading.cautions[0].startswith("Row 4 (30, above 12.5) lies outside the fences. Check it:")
    assert [link.label for link in reading.next[:2]] == ["See row 4 in the table", "Try it without row 4"]
    assert reading.next[0].rows == (3,)


def test_words_for_all_and_for_groups() -> None:
    one = answer(make("describe", table="t", what="v"), ODD).reading
    assert one.headline == "For the 8 cups, the mean of v is 7.3 and the median is 4.5."
    assert "high values pull it" in one.paragraphs[1]
    groups = answer(make("describe", table="bushes", what="leaf length", by="cultivar"), DEMO).reading
    assert groups.headline == (
        "The mean leaf length is 55.11\u00a0mm for Amber bushes, 72.82\u00a0mm for Jade bushes and "
        "63.14\u00a0mm for Mist bushes."
    )


def test_one_decimal_down_a_column() -> None:
    figures = answer(make("describe", table="bushes", what="leaf length", by="cultivar"), DEMO).figures[0]
    for at in range(3, len(figures.headings) - 1):
        decimals = {len(row.cells[at].text.partition(".")[2]) for row in figures.rows}
        assert len(decimals) == 1, figures.headings[at].key


def test_figures_copy_as_they_read() -> None:
    lines = answer(make("describe", table="t", what="v", by="g"), ODD).figures[0].to_lines()
    assert lines[0][:4] == ["g", "n", "missing", "mean"]
    assert lines[1][:3] == ["a", "4", "0"]
    assert lines[2][:3] == ["b", "4", "1"]


def tables_of(statement, tables) -> dict:
    return answer_json(answer(statement, tables))["figures"]


def test_every_figure_against_scipy() -> None:
    from theoros.verbs.describe.tables import FIGURES

    statement = make(
        "describe", table="bushes", what="pluck mass", figures=list(FIGURES), percentiles="10 97.5", quartiles="type 7"
    )
    (row,) = rows_of(statement, DEMO)
    values = DEMO["bushes"].numbers("pluck mass")
    values = values[np.isfinite(values)]
    known = {
        "total": values.sum(),
        "mean": values.mean(),
        "variance": values.var(ddof=1),
        "se": stats.sem(values),
        "cv": 100 * stats.variation(values, ddof=1),
        "range": np.ptp(values),
        "skewness": stats.skew(values, bias=False),
        "kurtosis": stats.kurtosis(values, bias=False),
        "geometric": stats.gmean(values),
        "trimmed": stats.trim_mean(values, 0.1),
        "q1": np.quantile(values, 0.25),
        "p10": np.quantile(values, 0.1),
        "p97.5": np.quantile(values, 0.975),
        "mode": stats.mode(values).mode,
    }
    for key, value in known.items():
        assert row[key] == pytest.approx(value, rel=1e-9), key


def test_figures_keep_the_order_they_are_put_in() -> None:
    statement = make("describe", table="t", what="v", figures=["median", "n"])
    (row,) = rows_of(statement, ODD)
    assert list(row)[:2] == ["median", "n"]


@pytest.mark.parametrize("text", ["x", "101", "-1", "10; x"])
def test_percentiles_that_are_none(text: str) -> None:
    found = answer(make("describe", table="t", what="v", percentiles=text), ODD)
    assert "not a percentile" in found.problem.sentence


QUARTILES = {
    # two small samples with the quartiles by four rules, as the article on quartiles of the
    # English encyclopaedia Wikipedia tabulates them
    (6, 7, 15, 36, 39, 40, 41, 42, 43, 47, 49): {
        "halves": (15, 40, 43), "halves with middle": (25.5, 40, 42.5), "type 6": (15, 40, 43),
    },
    (7, 15, 36, 39, 40, 41): {
        "halves": (15, 37.5, 40), "halves with middle": (15, 37.5, 40), "type 6": (13, 37.5, 40.25),
    },
    # the same data by all nine numbered rules: places n p + m worked by hand from Table 1 of
    # Hyndman and Fan (1996), with n = 11
    (10, 20, 30, 40, 50, 60, 70, 80, 90, 100, 110): {
        "type 1": (30, 60, 90), "type 2": (30, 60, 90), "type 3": (30, 60, 80),
        "type 4": (27.5, 60, 82.5), "type 5": (32.5, 60, 87.5), "type 6": (30, 60, 90),
        "type 7": (35, 60, 85), "type 8": (31 + 2 / 3, 60, 88 + 1 / 3),
        "type 9": (31.875, 60, 88.125),
    },
}  # fmt: skip


def test_quartile_rules_against_a_table() -> None:
    for data, rules in QUARTILES.items():
        tables = {"t": make_table("t", x=[float(v) for v in data])}
        for rule, known in rules.items():
            (row,) = rows_of(make("describe", table="t", what="x", quartiles=rule), tables)
            assert (row["q1"], row["median"], row["q3"]) == pytest.approx(known), (data, rule)


PAIRS = {"t": make_table(g=["a", "a", "a", "b", "b", None], h=["x", "x", "y", "y", "y", "x"], k=[1.0] * 6)}


def test_counts_cumulate_in_the_order_shown() -> None:
    figures = tables_of(make("describe", table="t", what="g", order="levels"), PAIRS)["counts"]
    assert [(r["level"], r["count"], r["cumulative"]) for r in figures] == [("a", 3, 3), ("b", 2, 5), ("all", 5, None)]
    assert figures[0]["percent"] == 60
    assert figures[1]["cumulative_percent"] == 100


@pytest.mark.parametrize(
    ("share", "first"),
    [
        ("counts", "2"),
        ("row percent", "2 (67\u00a0%)"),
        ("column percent", "2 (100\u00a0%)"),
        ("total percent", "2 (40\u00a0%)"),
    ],
)
def test_a_two_way_table_by_hand(share: str, first: str) -> None:
    """a: 2 x and 1 y; b: 2 y; one row without g."""
    found = answer(make("describe", table="t", what="g", by="h", share=share), PAIRS)
    rows = [[cell.text for cell in row.cells] for row in found.figures[0].rows]
    assert rows[0][:2] == ["a", first]
    assert [cell.value for cell in found.figures[0].rows[-1].cells] == ["all", 2, 3, 5]
    bars = found.picture.frames[0].panels[0].lanes[0].layers[0]
    by_percent = share == "column percent"  # x: 2 a of 2; y: 1 a and 2 b of 3
    wanted = [100, 0, 100 / 3, 200 / 3] if by_percent else [2, 0, 1, 2]
    assert bars.high == pytest.approx(wanted)
    assert "1 row left out: g is missing" in found.left_out


def test_correlations_against_numpy() -> None:
    statement = make("describe", table="bushes", what="leaf length", also=["leaf mass", "elevation"])
    figures = tables_of(statement, DEMO)
    table = DEMO["bushes"]
    data = np.array([table.numbers(n) for n in ("leaf length", "leaf mass", "elevation")])
    known = np.corrcoef(data[:, np.isfinite(data).all(axis=0)])
    rows = [[row[f"r {n}"] for n in ("leaf length", "leaf mass", "elevation")] for row in figures["correlations"]]
    assert np.array(rows) == pytest.approx(known)
    assert len(figures["summary"]) == 3
    flat = answer(make("describe", table="t", what="k", also=["v"]), {"t": make_table(k=[1.0] * 4, v=[1.0, 2, 3, 4])})
    assert "does not vary" in flat.reading.headline


def test_grouped_data_from_classes_and_counts() -> None:
    """Classes 0-10, 10-20, 20-30 with 5, 8 and 7: mean 16, median 16.25."""
    table = make_table("t", "leaf", size=["0 to under 10", "10 to under 20", "20 to 30"], n=[5, 8, 7])
    found = answer(make("describe", table="t", what="size"), {"t": table.with_(counts="n")})
    (grouped,) = answer_json(found)["figures"]["grouped"]
    assert (grouped["mean"], grouped["median"]) == (16, 16.25)
    assert "the mean is 16.0 and the median is 16.3" in found.reading.headline
    lines = " ".join(found.working[0].to_lines())
    assert "median = L + (n/2 − F) / f × w = 10 + (10 − 5) / 8 × 10 = 16.25" in lines
    whole = make_table("t", size=["10-19", "20-29"], n=[1, 1])
    (both,) = tables_of(make("describe", table="t", what="size"), {"t": whole.with_(counts="n")})["grouped"]
    assert both["mean"] == 19.5  # 9.5 to 19.5 and 19.5 to 29.5


@pytest.mark.parametrize(
    ("values", "words"),
    [
        (stats.norm.ppf(np.linspace(0.01, 0.99, 60)), "roughly symmetric with one peak"),
        (stats.expon.ppf(np.linspace(0.01, 0.99, 60)), "skewed to the right"),
        (-stats.expon.ppf(np.linspace(0.01, 0.99, 60)), "skewed to the left"),
        (
            np.r_[stats.norm.ppf(np.linspace(0.02, 0.98, 40)), 9 + stats.norm.ppf(np.linspace(0.02, 0.98, 40))],
            "two peaks",
        ),
        (np.repeat([1.0, 2.0], 10), "There are only 2 different values"),
    ],
)
def test_the_shape_is_said_with_what_speaks_for_it(values: np.ndarray, words: str) -> None:
    table = make_table("t", x=values.tolist())
    found = answer(make("describe", table="t", what="x"), {"t": table})
    assert any(words in text for text in found.reading.paragraphs), found.reading.paragraphs


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ("halves with middle", "each half has 4 values; Q_{1} is the mean of values 2 and 3 counted"),
        ("type 1", "Q_{1} is value 2, and Q_{3} is value 6."),
        ("type 6", "Q_{1} is value 2, and Q_{3} is value 6."),
        ("type 7", "Q_{1} is the mean of values 2 and 3, and Q_{3} is the mean of values 5 and 6."),
        (
            "type 5",
            "Q_{1} is at place 2.25, 0.25 of the way from value 2 to value 3, and Q_{3} is at "
            "place 5.75, 0.75 of the way from value 5 to value 6.",
        ),
    ],
)
def test_the_working_says_which_values_were_taken(rule: str, words: str) -> None:
    table = make_table("t", x=[3.0, 1, 4, 1.5, 9, 2.6, 5])
    found = answer(make("describe", table="t", what="x", quartiles=rule), {"t": table})
    assert words in found.working[0].lines[0]


def test_the_only_group_with_values_is_named() -> None:
    table = make_table("t", "tree", x=[None, 3.0, 4.0], kind=["ash", "elm", "elm"])
    found = answer(make("describe", table="t", what="x", by="kind"), {"t": table})
    assert found.reading.headline == "For the 2 elm trees, the mean of x is 3.5 and the median is 3.5."


def test_two_groups_are_compared_with_higher_and_kept_apart() -> None:
    """2.98 and 3.02 with one decimal more than the data would both be 3.0."""
    table = {"t": make_table("t", "cup", v=[2.98, 2.98, 3.02, 3.02], g=list("aabb"))}
    table["t"] = table["t"].with_(columns=table["t"].columns)
    found = answer(make("describe", table="t", what="v", by="g"), table).reading.headline
    assert found.startswith("The mean v is higher for cups whose g is “b”, 3.02")
    assert "than for cups whose g is “a”, 2.98" in found
    assert telling_apart([2.98, 3.02], 1) == ["2.98", "3.02"]
    assert telling_apart([3.0, 3.0], 1) == ["3.0", "3.0"]
    assert telling_apart([1e-12, 2e-12], 1) == ["1.00 × 10⁻¹²", "2.00 × 10⁻¹²"]


def test_a_constant_has_no_correlation_even_with_itself() -> None:
    table = {"t": make_table("t", x=[1.0, 2, 3, 4], c=[5.0, 5, 5, 5])}
    found = answer(make("describe", table="t", what="x", also=("c",)), table)
    matrix = found.figures[1]
    assert [[cell.value for cell in row.cells[1:]] for row in matrix.rows] == [[pytest.approx(1.0), None], [None, None]]


def test_a_count_column_is_described_once_a_row() -> None:
    columns = {"tea": ["Mist", "Jade", "Mist"], "n": [300.0, 100, 12]}
    table = make_table("t", "kind of order", **columns).with_(counts="n")
    own = answer(make("describe", table="t", what="n"), {"t": table})
    assert own.used == 3
    assert "the mean of n is 137.3" in own.reading.headline
    found = answer(make("describe", table="t", what="tea"), {"t": table}).reading
    assert found.headline == "The most frequent tea is Mist: 76\u00a0% of the 412 orders."


def test_a_row_that_counts_several_times_is_named_once() -> None:
    table = make_table("t", "cup", v=[1.0, 2, 3, 4, 99], n=[5.0, 5, 5, 5, 4]).with_(counts="n")
    found = answer(make("describe", table="t", what="v"), {"t": table}).reading
    assert found.cautions[0].startswith("Row 5 (99, 4 times, above ")
    assert found.next[0].rows == (4,)


AGES = ["0-9"] * 4 + ["10-19"] * 10 + ["20-29"] * 6


@pytest.mark.parametrize(("limits", "mean", "first"), [("halfway", 15.5, "−0.5 to 9.5"), ("next", 16.0, "0 to 10")])
def test_how_far_classes_reach_is_said_and_can_be_set(limits, mean, first) -> None:
    """Middles 4.5, 14.5, 24.5 halfway; 5, 15, 25 up to the next (20 values, by hand)."""
    table = {"t": make_table("t", "child", age=AGES)}
    statement = make("describe", table="t", what="age", limits=limits)
    found = answer(statement, table)
    assert found.figures[1].rows[0].cells[1].value == pytest.approx(mean)
    assert any(f"the first from {first}" in text for text in found.reading.paragraphs)
    assert statement.slot("limits", table).value == limits
    assert make("describe", table="t", what="age", by=None).slot("limits", {}) is None


def test_classes_with_one_limit_or_in_brackets() -> None:
    assert class_limits("[0,10)") == (0, 10)
    assert class_limits("(10, 20]") == (10, 20)
    assert class_limits("under 20") == (-math.inf, 20)
    assert class_limits("60 and over") == class_limits("60+") == (60, math.inf)
    levels = ("under 20", "20 to under 30", "30 to under 40", "40 and over")
    classes = classes_of(levels, [2, 4, 3, 1])
    assert classes.low.tolist() == [10, 20, 30, 40]
    assert classes.high.tolist() == [20, 30, 40, 50]
    table = {"t": make_table("t", "child", age=["40 and over", *levels[:3]] * 2)}
    assert table["t"].levels("age") == levels
    found = answer(make("describe", table="t", what="age"), table).reading
    assert "A class with only one limit is assumed to be as wide as its neighbour." in found.paragraphs


def test_shares_are_in_the_machine_read_answer() -> None:
    two = answer(make("describe", table="bushes", what="grade", by="netting"), DEMO)
    numbers = answer_json(two)["numbers"]
    rows = numbers["row_percent"]
    assert all(sum(line.values()) == pytest.approx(100) for line in rows.values())
    assert sum(sum(line.values()) for line in numbers["total_percent"].values()) == pytest.approx(100)
    assert [heading.key for heading in two.figures[0].headings][1:3] == ["netted", "open"]
    plot = answer_json(answer(make("plot", table="bushes", what="leaf mass", by="netting"), DEMO))
    values = DEMO["bushes"].numbers("leaf mass")
    netted = values[DEMO["bushes"].frame["netting"].to_numpy() == "netted"]
    assert plot["numbers"]["netted"]["mean"] == pytest.approx(np.nanmean(netted))
    test = answer_json(
        answer(
            make(
                "test",
                table="trays",
                what="moisture loss",
                by="withering",
                first="slow",
                second="quick",
                replicates=200,
            ),
            DEMO,
        )
    )
    assert {"t", "df", "standard_error", "difference", "critical", "p"} <= set(test["numbers"]["welch t"])
    assert {"mean", "sd", "z"} <= set(test["numbers"]["rank sum"])


def test_percentiles_by_another_rule_than_quartiles_say_so() -> None:
    """1 to 7: halves give 2 and 6 (Moore and McCabe), between values it is 2.5 and 5.5 (NumPy's own)."""
    tables = {"t": make_table("t", "row", v=[1, 2, 3, 4, 5, 6, 7])}

    def cautions(rule: str, percentiles: str) -> str:
        made = make("describe", table="t", what="v", quartiles=rule, percentiles=percentiles)
        return " ".join(answer(made, tables).reading.cautions)

    assert "P25 and Q1, P75 and Q3 differ, because quartiles and percentiles use different rules here" in cautions(
        "halves", "25 75"
    )
    assert "P25 and Q1 differ" in cautions("halves", "25 40")
    assert "use different rules" not in cautions("type 7", "25 75")
    assert "use different rules" not in cautions("halves", "40")
