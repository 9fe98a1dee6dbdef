"""The t procedures: Welch, pooled, paired."""

from __future__ import annotations

from collections.abc import Iterator

from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, p_equals, significant, unmarked
from theoros.numeric.summaries import Summary
from theoros.numeric.t_tests import NoSpread, TooFewValues, TTest, paired_t, pooled_t, welch_t
from theoros.numeric.tails import student_t
from theoros.verbs.test.null_pictures import curve_frame
from theoros.verbs.test.way import Outcome, Question, Way, WayFails

Run = Iterator[tuple[Outcome | None, float]]


def _welch(question: Question) -> Run:
    samples = question.samples
    result = _two(welch_t, question)
    a, b = samples.first, samples.second
    x, y = a.summary, b.summary
    one, two = unmarked(a.label), unmarked(b.label)
    formula = (
        f"t = (x̄_{{{one}}} − x̄_{{{two}}} − {exact(question.null)}) / "
        f"√(s_{{{one}}}^{{2}}/n_{{{one}}} + s_{{{two}}}^{{2}}/n_{{{two}}})"
    )
    put_in = (
        f"t = ({_n(x.mean)} − {_n(y.mean)} − {exact(question.null)}) / "
        f"√({_n(x.sd)}^{{2}}/{x.n} + {_n(y.sd)}^{{2}}/{y.n})"
    )
    df = (
        f"df = {number(result.df, 2)} by Welch and Satterthwaite: "
        f"(a + b)^{{2}} / (a^{{2}}/{x.n - 1} + b^{{2}}/{y.n - 1}) with a = {_n(x.sd)}^{{2}}/{x.n} "
        f"and b = {_n(y.sd)}^{{2}}/{y.n}"
    )
    yield _outcome(question, result, (formula, put_in), df), 1.0


def _pooled(question: Question) -> Run:
    samples = question.samples
    result = _two(pooled_t, question)
    a, b = samples.first, samples.second
    x, y = a.summary, b.summary
    one, two = unmarked(a.label), unmarked(b.label)
    pooled = result.pooled_sd or 0.0
    lines = (
        f"s_{{p}} = √(((n_{{{one}}} − 1) s_{{{one}}}^{{2}} + (n_{{{two}}} − 1) s_{{{two}}}^{{2}})"
        f" / (n_{{{one}}} + n_{{{two}}} − 2))",
        f"s_{{p}} = √(({x.n - 1} × {_n(x.sd)}^{{2}} + {y.n - 1} × {_n(y.sd)}^{{2}}) / "
        f"{x.n + y.n - 2}) = {_n(pooled)}",
        f"t = (x̄_{{{one}}} − x̄_{{{two}}} − {exact(question.null)}) / "
        f"(s_{{p}} √(1/n_{{{one}}} + 1/n_{{{two}}}))",
        f"t = ({_n(x.mean)} − {_n(y.mean)} − {exact(question.null)}) / "
        f"({_n(pooled)} × √(1/{x.n} + 1/{y.n}))",
    )
    df = f"df = {x.n} + {y.n} − 2 = {x.n + y.n - 2}"
    yield _outcome(question, result, lines, df), 1.0


def _paired(question: Question) -> Run:
    pairs = question.samples.pairs
    assert pairs is not None
    try:
        result = paired_t(pairs.values, question.null, question.claim)
    except TooFewValues:
        raise WayFails("needs at least two pairs") from None
    except NoSpread:
        raise WayFails("all differences are equal") from None
    s: Summary = pairs.summary
    lines = (
        f"t = (d̄ − {exact(question.null)}) / (s_{{d}} / √n)",
        f"t = ({_n(s.mean)} − {exact(question.null)}) / ({_n(s.sd)} / √{s.n})",
    )
    yield _outcome(question, result, lines, f"df = {s.n} − 1 = {s.n - 1}"), 1.0


def _two(procedure, question: Question) -> TTest:  # type: ignore[no-untyped-def]
    samples = question.samples
    try:
        return procedure(  # type: ignore[no-any-return]
            samples.first.data, samples.second.data, question.null, question.claim
        )
    except TooFewValues:
        raise WayFails("needs at least two values in each group") from None
    except NoSpread:
        raise WayFails("all values within each group are equal") from None


def _outcome(question: Question, result: TTest, lines: tuple[str, ...], df: str) -> Outcome:
    curve = student_t(result.df)
    critical = curve.critical(question.alpha, question.claim)
    degrees = number(result.df, 0 if result.df == int(result.df) else 1)
    seen = f"t = {number(result.t, 2)}"
    sign = {"less": "t < ", "greater": "t > ", "different": "|t| > "}[question.claim]
    tail = {
        "less": f"P(t ≤ {number(result.t, 3)})",
        "greater": f"P(t ≥ {number(result.t, 3)})",
        "different": f"2 × P(t ≥ {number(abs(result.t), 3)})",
    }[question.claim]
    working = (
        Step("Statistic", (*lines, f"t = {number(result.t, 4)}", df)),
        Step("p-value", (f"{tail} with df = {degrees}", p_equals(result.p))),
    )
    figures = {
        "t": result.t,
        "df": result.df,
        "p": result.p,
        "difference": result.difference,
        "standard_error": result.standard_error,
        "critical": critical,
    }
    if result.pooled_sd is not None:
        figures["pooled_sd"] = result.pooled_sd
    return Outcome(
        p=result.p,
        statistic=result.t,
        statistic_text=f"{seen}, df {degrees}",
        figures=figures,
        null_frame=lambda: curve_frame(
            f"t, {degrees} degrees of freedom", result.df, result.t, question.claim, seen
        ),
        working=working,
        critical=f"reject H_{{0}} for {sign}{number(critical, 3)}",
    )


def _n(value: float) -> str:
    return significant(value, 5)


WAYS = (
    Way(
        "welch t",
        "Welch t",
        ("mean",),
        False,
        "Two means; the spreads of the groups may differ.",
        ("normal", "outliers"),
        _welch,
        from_figures=True,
        order=1,
    ),
    Way(
        "pooled t",
        "Pooled t",
        ("mean",),
        False,
        "Two means; takes the spreads of the two populations as equal.",
        ("normal", "outliers", "spreads"),
        _pooled,
        from_figures=True,
        order=2,
    ),
    Way(
        "paired t",
        "Paired t",
        ("mean",),
        True,
        "The mean of the differences in matched pairs.",
        ("normal", "outliers"),
        _paired,
        order=1,
    ),
)
