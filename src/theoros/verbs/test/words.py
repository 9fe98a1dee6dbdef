"""What is said of a test, and what can be done next."""

from __future__ import annotations

from theoros.answer.parts import Link, Reading
from theoros.verbs import follow_ups
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.samples import TwoFactorSamples, TwoSamples
from theoros.verbs.data.typed_from import typed_from
from theoros.verbs.procedures.drafting import WAITING, Results, cannot_answer
from theoros.verbs.procedures.procedure import Procedure, Result, default_procedure
from theoros.verbs.procedures.writeup import evidence_of
from theoros.verbs.test.report import SHUFFLING, TestReport


def reading_of(r: TestReport, method: Procedure, results: Results) -> Reading:
    claim, result = r.words, results[method.name]
    assumptions, remedies = r.assumptions(method), _remedies(r, method, results)
    links = _links(r, method, remedies)
    if not isinstance(result, Result):
        headline = f"{SHUFFLING} …" if result == WAITING else cannot_answer(method, result)
        return Reading(headline, assumptions=assumptions, next=links)
    if r.known:
        paragraph = "A p-value is about random samples. Here all of the population is known."
        return Reading(claim.in_population(), (paragraph,), assumptions=assumptions, next=links)
    found = evidence_of(result)
    rejected = claim.shown(found)
    paragraphs = [claim.conclusion(found), *r.scope(shown=claim.shown(found))]
    if not rejected and not found.undecided(claim.alpha):
        paragraphs.append(claim.not_shown())
    interval = r._interval(result)
    if interval is not None:
        paragraphs.append(interval.said(rejected=rejected))
    return Reading(
        claim.decision(found),
        tuple(paragraphs),
        assumptions=assumptions,
        cautions=tuple(_cautions(r, method, result, remedies)),
        next=links,
    )


def _cautions(r: TestReport, method: Procedure, result: Result, remedies: list[Link]) -> list[str]:
    words, data = r.words, r.data
    cautions = r.failed(method, remedies)
    if words.against:
        first = " and the order of the groups" if words.compares else ""
        cautions.append(
            f"The sample points against the claim, so p is large. Check the direction of the claim{first}. A claim "
            "that is reversed after a look at the data needs new data."
        )
    cautions += result.remarks
    if words.parameter.name == "median" and method.name == "rank sum":
        assert isinstance(data, TwoSamples)
        one, two = (sample.summary.median for sample in data.samples)
        if words.shown(evidence_of(result)) and r.statement.supposed == 0 and one == two:
            cautions.append(
                "The sample medians are equal, so the ranks show a shift of the whole group and not of its median."
            )
    return cautions


def _remedies(r: TestReport, method: Procedure, results: Results) -> list[Link]:
    """What can be done about an assumption that fails."""
    statement, links = r.statement, r.another(method, results)
    if not statement.merge and any(check.remedy == "merge" for check in r.checked(method)):
        links.append(Link("Merge levels until 5 are expected of each", sets=("merge", True)))
    others = dict.fromkeys(name for method in r.methods for name in method.compares)
    other = next((one for one in others if one != statement.parameter), "")
    if other and r.fails(method):
        links.append(Link(f"Ask about the {other}s instead (another question)", sets=("parameter", other)))
    return links


def _watched(r: TestReport) -> Statement:
    """The same claim as a simulation, with everything filled in."""
    s = r.statement
    asks: dict[str, follow_ups.Ask] = {"less": "at most", "greater": "at least", "different": "as far"}
    return follow_ups.watch_claim(
        s.data,
        s.parameter,
        s.method,
        table=s.table,
        null=s.null,
        claimed=s.claimed,
        alpha=s.alpha,
        ask=asks[s.alternative] if s.about.points(s.family) else "at least",
        drawn=follow_ups.ChanceSettings(s.replicates, s.seed),
    )


def _links(r: TestReport, chosen: Procedure, remedies: list[Link]) -> tuple[Link, ...]:
    statement = r.statement
    links = r.row_links(chosen)
    if r.words.against and statement.supposed == 0 and r.words.compares:
        label = "Swap the two groups, if their order is wrong"
        links.append(Link(label, statement=statement.swapped()))
    links += remedies
    method = default_procedure(statement.parameter, statement.family, typed=statement.data.bare(), purpose="interval")
    if method:
        what = "this difference" if r.words.compares else "it"
        confidence = round(1 - statement.alpha, 10)
        interval = follow_ups.estimate(
            statement.data, statement.parameter, method, table=statement.table, confidence=confidence
        )
        links.append(Link(f"Estimate {what} by an interval", statement=interval))
    if chosen.simulated and not isinstance(r.data, TwoFactorSamples):
        links.append(Link("Watch the shuffles one by one", statement=_watched(r)))
    typed = typed_from(r.data)
    if typed is not None:
        label = "Carry these figures into a test of typed figures"
        links.append(Link(label, statement=statement.with_figures(typed)))
    about = statement.data.about
    if about and len(about) < 3 and "normal" in chosen.needs:
        shape = follow_ups.plot(statement.table, about["what"], by=about.get("by"), shape="normal quantiles")
        links.append(Link("Compare the shape with a normal distribution", statement=shape))
    return (*links, *r.about_links())
