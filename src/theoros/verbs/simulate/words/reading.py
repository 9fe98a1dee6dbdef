"""What a pile says in words: levels not to mix up, the conclusion, five steps, what to ask next."""

from __future__ import annotations

from theoros.answer.nouns import counted, plural
from theoros.answer.parts import Link, Reading, Step, Symbol
from theoros.answer.wording import exact, p_value, percent_text, places_of_ends, whole
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables, next_seed
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.verdict import rarity
from theoros.verbs.simulate.models.share import ShareModel
from theoros.verbs.simulate.report import AskedOfReplicates, margin, margin_text, often, share_text
from theoros.verbs.simulate.sampling.procedure_sampler import NullSampler, ResampleSampler
from theoros.verbs.simulate.sampling.replicate_summary import ReplicateSummary
from theoros.verbs.simulate.sampling.sampler import ModelSampler, Sampler
from theoros.verbs.simulate.statistics.statistic import TAILS
from theoros.verbs.simulate.words.nouns import plural_verb

SIGNS = {"at most": "<", "at least": ">", "as far": "≠"}
WORDS = {"at most": "less than", "at least": "greater than", "as far": "different from"}
MOST_SENT, MOST_CASES_SENT = 100_000, 200_000


def reading_of(f: ReplicateSummary, tables: Tables, beforehand: str = "") -> Reading:
    s, ready, n = f.ready.s, f.ready, f.n
    label, each = ready.labels[0], ready.each
    many = plural(each)
    paragraphs: list[str] = []
    if f.region is not None and f.asked.low is not None:
        headline = f"In {often(f.hits, n, each, many)} the {label} {f.asked.words()}."
        observed = s.ask in TAILS
        if observed:
            paragraphs += [*_how_rare(f), *conclusion_of(f)]
        paragraphs.append(
            (
                f"{whole(f.hits)} of {counted(n, each)}: a proportion of {share_text(f.hits, n)} "
                f"({margin_text(f.hits, n)})."
            )
            + (f" {_counted_too(f)}" if f.is_claim else "")
        )
    elif s.ask == "middle":
        headline, more = _middle_words(f)
        paragraphs += more
    else:
        mean = ready.said(f.mean, f.fine)
        headline = f"The {label} of {counted(n, each)} has a mean of {mean}."
        if f.beyond:
            headline = (
                f"The {label} varies widely from {each} to {each}; some {many} are longer than the draws allowed."
            )
        elif _is_all(ready):
            headline = f"Each {each} is the whole population, so the {label} is always {ready.said(f.mean)}."
        elif n > 1:
            error = ready.said(f.error, f.fine)
            paragraphs.append(
                f"Its standard deviation is {error}. This is the standard error: the typical distance of one "
                f"{each} from the mean."
            )
        paragraphs += _waiting(f)
    cautions = [beforehand] if beforehand else []
    cautions += _cautions(f, tables)
    return Reading(headline, tuple(paragraphs), cautions=tuple(cautions), next=links_of(ready, f.asked))


def _is_all(ready: Sampler) -> bool:
    """Whether every sample is all there is."""
    return isinstance(ready, ModelSampler) and ready.facts.finite == ready.facts.n


def _how_rare(f: ReplicateSummary) -> list[str]:
    """A word for how rare it is, where the pile is large enough to tell, or the law is known."""
    if isinstance(f.ready, NullSampler | ResampleSampler) or f.is_claim or f.hits == f.n:
        return []  # a conclusion follows, or the headline says it
    gap = margin(f.hits, f.n)
    ends = (f.exact,) * 2 if f.exact is not None else (f.hits / f.n - gap, f.hits / f.n + gap)
    one, two = (rarity(end) for end in ends)
    return [f"Such a result is {one} under this model."] if one == two else []


def _counted_too(f: ReplicateSummary) -> str:
    """How p comes from the share."""
    return f"The observed result counts as one more: p = ({whole(f.hits)} + 1) / ({whole(f.n)} + 1) = {p_value(f.p)}."


def _waiting(f: ReplicateSummary) -> list[str]:
    """What could be asked, where the value is still missing."""
    if f.ready.s.ask == "distribution":
        return []
    return ["Type the observed value to see how often chance gives such a result."]


def _middle_words(f: ReplicateSummary) -> tuple[str, list[str]]:
    s, ready = f.ready.s, f.ready
    ends = f.middle
    percent = percent_text(s.middle)
    many = plural(ready.each)
    if ends is None:
        if f.beyond:
            return (
                f"The middle {percent} cannot be found, because the longest {many} are longer than the draws allowed."
            ), []
        few = "is" if f.n == 1 else "are"
        return (f"{counted(f.n, ready.each)} {few} too few to find the middle {percent}.", [])
    places = places_of_ends(*ends, most=ready.places)
    low, high = ready.said(ends[0], places), ready.said(ends[1], places)
    said = f"In the middle {percent} of the {many}, the {ready.labels[0]} is between {low} and {high}."
    if s.model.uses == "resampling":
        return said, [f"This is the {percent} bootstrap percentile interval for {_estimated(f)}."]
    return said, []


def _estimated(f: ReplicateSummary) -> str:
    """What a pile of resamples is about, in the population."""
    s = f.ready.s
    if "two" in s.family and s.family != "two numbers":
        return f"the {s.about.name}" if s.about.ratio else f"the difference of the two {s.about.plural}"
    if s.family == "pairs":
        return f"the {s.about.name} of the differences in the population"
    return f"the {s.about.name} of the population"


def _cautions(f: ReplicateSummary, tables: Tables) -> list[str]:
    s, ready, made = f.ready.s, f.ready, []
    if f.beyond:
        most = whole(getattr(s.model, "most", 0))
        made.append(
            f"{counted(f.beyond, ready.each)} of {whole(f.count)} did not come to an end within {most} draws. They "
            "count as longer than that, so no mean and no standard deviation can be given. Allow more draws."
        )
    if f.lost:
        made.append(
            f"The statistic has no value in {counted(f.lost, ready.each)} of "
            f"{whole(f.count)}, which {'is' if f.lost == 1 else 'are'} left out."
        )
    if s.ask in TAILS and s.observed_in and isinstance(ready, ModelSampler):
        made += rests_on(ready, tables)
    return made


def without_values(f: ReplicateSummary) -> str:
    """What is said where no replicate has a value."""
    each = f.ready.each
    if isinstance(f.ready, ModelSampler) and "waits" in f.ready.facts.takes:
        most = whole(getattr(f.ready.s.model, "most", 0))
        return f"In none of {counted(f.count, each)} did the waiting end within {most} draws."
    if isinstance(f.ready, ModelSampler) and f.ready.facts.n == 1:
        return (
            f"The {f.ready.labels[0]} has no value, because each {each} has only one value. Increase the sample size n."
        )
    return f"The statistic has no value in any of {counted(f.count, each)}."


def symbols_of(ready: Sampler) -> tuple[Symbol, ...]:
    """H0 and H1, of a claim."""
    s = ready.s
    if isinstance(ready, NullSampler):
        return ready.words.symbols()[:2]
    if isinstance(s.model, ShareModel) and ready.claims:
        p = exact(s.model.p or 0)
        return (Symbol(f"H_{{0}}: p = {p}"), Symbol(f"H_{{1}}: p {SIGNS[s.ask]} {p}"))
    return ()


def _claim(ready: Sampler) -> str:
    """The claim about a share as a clause."""
    model = ready.s.model
    assert isinstance(model, ShareModel)
    assert model.p is not None
    case, success = model.case.strip() or "trial", model.success.strip() or "succeeds"
    return f"the chance that a {case} {success} is {WORDS[ready.s.ask]} {exact(model.p)}"


def conclusion_of(f: ReplicateSummary) -> list[str]:
    """What follows for a claim, with the same care as in a test."""
    ready, s = f.ready, f.ready.s
    if isinstance(ready, NullSampler):
        if not f.by_data:
            return []
        words, found = ready.words, f.evidence
        made = [words.decision(found), words.conclusion(found)]
        if not words.shown(found) and not found.undecided(s.alpha):
            made.append(words.not_shown())
        return made
    if isinstance(ready, ResampleSampler):
        return [
            "Resamples vary around the estimate of the sample, not around a claim. A value that few resamples "
            "reach is not plausible for the population."
        ]
    if not f.is_claim:
        return []
    found, claim = f.evidence, _claim(ready)
    made = [found.decision(s.alpha), found.conclusion(s.alpha, claim)]
    if not found.rejects(s.alpha) and not found.undecided(s.alpha):
        made.append(
            f"This does not show that the chance is {exact(getattr(s.model, 'p', None) or 0)}: other values fit "
            "the data too."
        )
    return made


def steps_of(f: ReplicateSummary) -> tuple[Step, ...]:
    """In five steps, for models that test a claim."""
    ready, s, asked = f.ready, f.ready.s, f.asked
    signs = symbols_of(ready)
    if not signs or asked.low is None or not f.is_claim:
        return ()
    if isinstance(ready, NullSampler):
        meaning = ready.words.meaning()
        observed = f"In the sample: {ready.words.observed()}."
        chance = f"In each {ready.each} {ready.drawn.how} (seed {s.seed})."
    else:
        model = s.model
        assert isinstance(model, ShareModel)
        case, success = model.case.strip() or "trial", model.success.strip() or "succeeds"
        meaning = f"p is the chance that a {case} {success}."
        observed = f"Observed: {ready.told(asked.low)}." if isinstance(ready, ModelSampler) else ""
        chance = f"If H₀ is true, each {case} {success} with chance {exact(model.p or 0)}."
    return (
        Step("1. Hypotheses", (meaning, signs[0].text, signs[1].text)),
        Step("2. Significance level and model of chance", (f"α = {exact(s.alpha)}.", chance)),
        Step("3. Statistic", (observed,)),
        Step(
            "4. Simulated distribution",
            (
                f"In {whole(f.hits)} of {counted(f.n, ready.each)} the {ready.labels[0]} {asked.words()}.",
                _counted_too(f),
            ),
        ),
        Step("5. Conclusion", tuple(conclusion_of(f))),
    )


def rests_on(ready: ModelSampler, tables: Tables) -> list[str]:
    """Where what was seen has another size than the samples."""
    s = ready.s
    table = tables.get(s.table)
    if table is None or not s.observed_in or s.observed_in not in table.by_name:
        return []
    there = table.frame[s.observed_in].drop_nulls().len()
    if there == ready.facts.n or "waits" in ready.facts.takes:
        return []
    return [
        f"{s.observed_in} has {counted(there, 'value')}, and samples here have {whole(ready.facts.n)}. Use the "
        "same sample size to compare them."
    ]


def links_of(ready: Sampler, asked: AskedOfReplicates) -> tuple[Link, ...]:
    """What to do next."""
    s, made = ready.s, []
    if isinstance(ready, NullSampler):
        made.append(Link("Test this claim", statement=_test(ready)))
    if isinstance(ready, ResampleSampler):
        interval = follow_ups.estimate(
            s.data,
            s.parameter,
            "percentile of shares" if "share" in s.family else "percentile",
            table=s.table,
            replicates=s.replicates,
            seed=s.seed,
            share=float(s.share),
        )
        made.append(Link("Estimate it with an interval", statement=interval))
    model = s.model
    if isinstance(model, ShareModel) and model.p is not None and s.statistic == "number":
        many = f"{plural(model.case.strip() or 'trial')} that " + plural_verb(model.success.strip() or "succeeds")
        part = ""
        if asked.low is not None and s.ask in ("at most", "at least"):
            part = f"{s.ask} {exact(asked.low)}"
        exactly = follow_ups.binomial(model.n, model.p, counts=many, each=s.each, parts=(part,) if part else ())
        made.append(Link("Calculate it exactly", statement=exactly))
    made.append(Link("Draw from another seed (F9)", sets=("seed", next_seed(s.seed))))
    made.append(Link("Put the statistics into a table", draws="statistics"))
    made.append(Link("Put all samples into a table", draws="samples"))
    made.append(Link(f"Put this {ready.each} into a table", draws="sample"))
    return tuple(made)


def _test(ready: NullSampler) -> Statement:
    """The same claim as a test, with everything filled in."""
    s = ready.s
    null = getattr(s.model, "null", 0.0)
    return follow_ups.hypothesis_test(
        s.data,
        s.parameter,
        s.method,
        table=s.table,
        alternative=ready.question.alternative or "different",
        null=null,
        alpha=s.alpha,
        claimed=getattr(s.model, "claimed", ""),
        drawn=follow_ups.ChanceSettings(max(100, s.replicates), s.seed),
    )
