"""The rank-based ways: rank sum for separate samples, signed rank for matched pairs."""

from __future__ import annotations

from collections.abc import Iterator

from theoros.answer.parts import Step
from theoros.answer.wording import counted, exact, number, p_equals, unmarked
from theoros.numeric.rank_tests import RankTest, rank_sum, signed_rank
from theoros.numeric.t_tests import NoSpread, TooFewValues
from theoros.verbs.test.null_pictures import curve_frame, exact_frame
from theoros.verbs.test.way import Outcome, Question, Way, WayFails

Run = Iterator[tuple[Outcome | None, float]]


def _rank_sum(question: Question) -> Run:
    samples = question.samples
    try:
        result = rank_sum(
            samples.first.values,
            samples.second.values,
            question.null,
            question.claim,
            continuity=question.continuity,
        )
    except TooFewValues:
        raise WayFails("needs a value in each group") from None
    except NoSpread:
        raise WayFails("all values are equal") from None
    one, two = unmarked(samples.first.label), unmarked(samples.second.label)
    n1, n2 = result.n
    w = result.statistic + n1 * (n1 + 1) / 2
    shift = f" after taking {exact(question.null)} off each value of it" if question.null else ""
    lines = (
        f"Rank all {n1 + n2} values together{shift}, ties sharing the average rank.",
        f"W = sum of the ranks of {one} = {number(w, 0 if w == int(w) else 1)}",
        f"U = W − n_{{{one}}}(n_{{{one}}} + 1)/2 = {_half(w)} − {n1} × {n1 + 1}/2 "
        f"= {_half(result.statistic)}",
        f"U counts the pairs in which {one} is the larger, of {n1} × {n2} = {n1 * n2}.",
    )
    yield _outcome(question, result, "U", lines, f"U for {one} against {two}"), 1.0


def _signed_rank(question: Question) -> Run:
    pairs = question.samples.pairs
    assert pairs is not None
    try:
        result = signed_rank(
            pairs.values, question.null, question.claim, continuity=question.continuity
        )
    except NoSpread:
        raise WayFails(f"every difference is {exact(question.null)}") from None
    lines = (
        f"Leave out differences of {exact(question.null)} ({counted(result.dropped, 'pair')}); "
        f"n = {result.n[0]} remain.",
        "Rank the sizes of the differences, ties sharing the average rank.",
        f"W⁺ = sum of the ranks of the positive differences = {_half(result.statistic)}",
    )
    yield _outcome(question, result, "W⁺", lines, "W⁺, ranks of the positive differences"), 1.0


def _outcome(
    question: Question, result: RankTest, symbol: str, lines: tuple[str, ...], axis: str
) -> Outcome:
    seen = f"{symbol} = {_half(result.statistic)}"
    remarks = []
    if result.exact:
        dealt = "deal out the ranks" if symbol == "U" else "put signs to the ranks"
        how = f"exact: every way to {dealt} is counted"
        remarks.append(f"The p-value is {how}{', ties included' if result.tied else ''}.")
        p_step = Step("p-value", (f"From the exact distribution of {symbol}.", p_equals(result.p)))
    else:
        correction = "with" if question.continuity else "without"
        ties = ", corrected for ties" if result.tied else ""
        remarks.append(
            f"The p-value comes from the normal curve, {correction} continuity correction{ties}: "
            f"there are too many values to count every way to deal out the ranks."
        )
        half = " ∓ ½" if question.continuity else ""
        p_step = Step(
            "p-value",
            (
                f"Under H_{{0}}: mean {_half(result.mean)}, standard deviation "
                f"{number(result.sd, 3)}",
                f"z = ({symbol} − mean{half}) / SD = {number(result.z, 3)}",
                p_equals(result.p),
            ),
        )
    if result.dropped:
        verb = "has" if result.dropped == 1 else "have"
        remarks.append(
            f"{counted(result.dropped, 'pair')} {verb} no difference and "
            f"{'is' if result.dropped == 1 else 'are'} left out of the ranking."
        )
    null = result.null

    def frame():  # type: ignore[no-untyped-def]
        if null is not None:
            return exact_frame(null, axis, result.statistic, question.claim, seen)
        text = f"z = {number(result.z, 2)}"
        return curve_frame("z", None, result.z, question.claim, text)

    return Outcome(
        p=result.p,
        statistic=result.statistic,
        statistic_text=seen,
        figures={
            "statistic": result.statistic,
            "p": result.p,
            "z": result.z,
            "mean": result.mean,
            "sd": result.sd,
            "exact": float(result.exact),
        },
        null_frame=frame,
        working=(Step("Statistic", lines), p_step),
        remarks=tuple(remarks),
    )


def _half(value: float) -> str:
    return number(value, 0 if value == int(value) else 1)


WAYS = (
    Way(
        "rank sum",
        "Rank sum",
        ("median",),
        False,
        "Two medians by ranks (Mann–Whitney, Wilcoxon); no normal shape needed.",
        ("shapes",),
        _rank_sum,
        order=3,
    ),
    Way(
        "signed rank",
        "Signed rank",
        ("median",),
        True,
        "The median of the differences by ranks (Wilcoxon).",
        ("symmetry",),
        _signed_rank,
        order=2,
    ),
)
