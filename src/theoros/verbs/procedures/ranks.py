"""The rank-based procedures: rank sum for separate samples, signed rank for matched pairs."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, p_equals, statistic, taken_off, unmarked
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.ranks import RankTest, hodges_lehmann, rank_sum, signed_rank, walsh_median
from theoros.verbs.data.samples import Observed, OneSided, Paired, TwoSamples
from theoros.verbs.procedures.effects import rank_biserial
from theoros.verbs.procedures.procedure import EffectSize, Procedure, ProcedureFails, Question, Result, Steps


def _rank_sum(question: Question) -> Steps:
    data = question.of(TwoSamples)
    try:
        found = rank_sum(
            data.first.values,
            data.second.values,
            question.null,
            question.alternative,
            continuity=question.settings.continuity,
        )
    except TooFewValues:
        raise ProcedureFails("needs a value in each group") from None
    except NoSpread:
        raise ProcedureFails("all values are equal") from None
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    n1, n2 = found.n
    w = found.statistic + n1 * (n1 + 1) / 2
    shift = f" after subtracting {exact(question.null)} from each of its values" if question.null else ""
    lines = (
        f"Rank all {n1 + n2} values together{shift}; ties share the average rank.",
        formula(f"W = {{sum of the ranks of {one}}} = {_half(w)}"),
        formula(
            f"U = W − (n_{{{one}}} (n_{{{one}}} + 1)) / 2 = {_half(w)} − ({n1} × {n1 + 1})/2 = {_half(found.statistic)}"
        ),
        f"U counts the pairs in which {one} has the larger value, of {n1} × {n2} = {n1 * n2}.",
    )
    effects = rank_biserial(found.statistic, n1 * n2)
    if question.in_full:
        shift_seen = hodges_lehmann(data.first.values, data.second.values)
        if shift_seen is not None:
            effects += (EffectSize("Hodges–Lehmann shift", shift_seen),)
    yield replace(_result(question, found, "U", lines, f"U for {one} against {two}"), effects=effects), 1.0


def _signed_rank(question: Question) -> Steps:
    data = question.of(OneSided)
    what = "difference" if isinstance(data, Paired) else "value"
    try:
        found = signed_rank(
            data.single.values, question.null, question.alternative, continuity=question.settings.continuity
        )
    except NoSpread:
        raise ProcedureFails(f"every {what} is {exact(question.null)}") from None
    pairs = isinstance(data, Paired)
    out = (
        f"{counted(found.dropped, 'pair')} with a difference of" if pairs else (f"{counted(found.dropped, 'value')} of")
    )
    left = (f"Leave out {out} exactly {exact(question.null)}; n = {found.n[0]} remain.",)
    sizes = "the differences" if pairs else f"the differences from {exact(question.null)}"
    lines = (
        *(left if found.dropped else ()),
        f"Rank the sizes of {sizes}{_from_null(question) if pairs else ''}; ties share the average rank.",
        formula(f"W⁺ = {{sum of the ranks of the positive differences}} = {_half(found.statistic)}"),
    )
    made = _result(question, found, "W⁺", lines, "W⁺, ranks of the positive differences")
    yield replace(made, effects=_about_signed(question, found)), 1.0


def _about_signed(question: Question, found: RankTest) -> tuple[EffectSize, ...]:
    """The share of rank sums that is positive less that which is negative, and the middle value."""
    n = found.n[0]
    effects = rank_biserial(found.statistic, n * (n + 1) // 2)
    middle = walsh_median(question.of(OneSided).single.values) if question.in_full else None
    return effects if middle is None else (*effects, EffectSize("Hodges–Lehmann estimate", middle))


def _result(question: Question, found: RankTest, symbol: str, lines: tuple[str | Formula, ...], axis: str) -> Result:
    observed = f"{symbol} = {_half(found.statistic)}"
    remarks, working = [], [Step("Statistic", lines)]
    continuity, p = question.settings.continuity, found.p
    dealt = "assign the ranks to the groups" if symbol == "U" else "put signs to the ranks"
    if found.exact:
        ties = ", ties included" if found.tied else ""
        how = f"Exact: every way to {dealt} is counted{ties}. All are equally likely under H_{{0}}."
        if p is not None:
            working.append(Step("p-value", (how, formula(p_equals(p)))))
    else:
        correction = "with" if continuity else "without"
        ties = ", corrected for ties" if found.tied else ""
        remarks.append(
            f"The p-value comes from the normal curve, {correction} continuity correction{ties}: "
            f"there are too many values to count every way to {dealt}."
        )
        # what the correction took off the gap, which is none where the gap is below a half
        moved = found.statistic - found.mean - found.z * found.sd
        half = taken_off(round(moved, 10)) if continuity else ""
        under: tuple[str | Formula, ...] = (
            f"Under H_{{0}}: mean {_half(found.mean)}, standard deviation {number(found.sd, 3)}",
            *formulas(
                f"z = ({symbol} − {{mean}}{half}) / {{SD}}",
                f"z = ({_half(found.statistic)} − {_half(found.mean)}{half}) / "
                f"{number(found.sd, 3)} = {statistic(found.z, 1)}",
            ),
        )
        if p is not None:
            working.append(Step("p-value", (*under, formula(p_equals(p)))))
    if found.dropped:
        remarks.append(_dropped(question, found.dropped))
    figures = {
        "statistic": found.statistic,
        "z": found.z,
        "mean": found.mean,
        "sd": found.sd,
        "exact": float(found.exact),
    }
    if p is not None:
        figures["p"] = p
    null, at, said = found.null or Normal(), found.statistic, observed
    if found.null is None:
        axis, at, said = "z", found.z, f"z = {statistic(found.z)}"
    return Result(
        estimate=question.parameter.estimate(question.of(Observed)),
        statistic=found.statistic,
        statistic_text=observed,
        distribution=null,
        observed=at,
        observed_text=said,
        region=found.region,
        p=p,
        figures=figures,
        working=tuple(working),
        remarks=tuple(remarks),
        axis=axis,
        least_p=null.least_tail(question.alternative) if question.alternative else 0.0,
        too_few="values",
    )


def _dropped(question: Question, n: int) -> str:
    """What has no rank, as it lies on neither side."""
    one = n == 1
    noun = "pair" if isinstance(question.data, Paired) else "value"
    what = f"differ{'s' if one else ''} by exactly {exact(question.null)}"
    if noun == "value":
        what = f"{'is' if one else 'are'} exactly {exact(question.null)}"
    elif not question.null:
        what = f"{'has' if one else 'have'} no difference"
    return f"{counted(n, noun)} {what} and {'is' if one else 'are'} left out of the ranking."


def _from_null(question: Question) -> str:
    return f" from {exact(question.null)}" if question.null else ""


def _half(value: float) -> str:
    return number(value, 0 if value == int(value) else 1)


PROCEDURES = (
    Procedure(
        "rank sum", "Rank sum",
        "Two medians by ranks (Mann–Whitney, Wilcoxon); no normal shape needed.",
        ("two samples",), ("median",), ("alike",), _rank_sum, order=3, settings=("continuity",),
        other_names=("Mann–Whitney U", "Mann-Whitney", "Wilcoxon rank sum")
    ),
    Procedure(
        "signed rank", "Signed rank", "A median, or that of differences, by ranks (Wilcoxon).",
        ("pairs", "one sample"), ("median",), ("symmetry",), _signed_rank, order=2,
        settings=("continuity",), other_names=("Wilcoxon signed rank",)
    ),
)  # fmt: skip
