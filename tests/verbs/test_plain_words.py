"""Words that a first-year student can use: common ones, in short sentences, only what applies, nothing at odds.

What is rarer than a common word stands in the glossary. How common a word is, is Zipf's scale of the wordfreq
package: 3.4 is one word in about 400 000.
"""

from __future__ import annotations

import ast
import re
from collections import Counter, defaultdict
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from benchmarks.readings import conditions, example_answers, told
from wordfreq import zipf_frequency

import theoros
from tests.conftest import make_table
from tests.verbs.test_copy_editor import CASES, each_part
from theoros.answer.glossary import term_of, terms, terms_in
from theoros.answer.parts import Answer
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, verbs
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.verdict import Evidence, contains, rarity, shown
from theoros.verbs.data.data import data_kinds
from theoros.verbs.probability.data import situations
from theoros.verbs.simulate.models.model import models

COMMON = 3.4
LONGEST = 40
"""Words of a sentence; a list of rows or of groups counts as one word each."""
NAMES = {
    "hosmer",
    "lemeshow",
    "theil",
    "lowess",
    "cultivar",
    "pluck",
    "taster",
    "tasters",
    "firings",
    "trays",
    "mite",
    "crates",
    "netting",
    "spreadsheet",
    "multiplies",
}
"""Of people and methods that are cited, and of the demo's own things."""


@cache
def corpus() -> tuple[tuple[str, Answer, frozenset[str]], ...]:
    """The verb, the answer and the names of the data, of all examples and awkward cases."""
    made = [(verb, found, frozenset({"Jade", "Amber", "Mist", "netted"})) for verb, _, found in example_answers()]
    for _, statement, tables in CASES:
        names = set()
        for table in tables.values():
            names.add(table.noun)
            for column in table.columns:
                names |= {column.name, column.unit}
                names |= set(table.levels(column.name)) if column.kind.is_grouping else set()
        for one in each_part(statement)[:3]:
            made.append((one.verb, answer(one, tables), frozenset(names - {""})))
    return tuple(one for one in made if not one[1].problem)


def sentences() -> Iterator[tuple[str, frozenset[str]]]:
    for _, found, names in corpus():
        for text in (*told(found), *conditions(found), *(to_plain(link.label) for link in found.reading.next)):
            yield text, names


def literals() -> Iterator[tuple[str, str]]:
    """Every text of the program that is no docstring, with the file that has it."""
    for path in sorted(Path(theoros.__file__).parent.rglob("*.py")):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        skip: set[int] = set()
        for node in ast.walk(tree):
            if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
                skip.add(id(node.value))
            if isinstance(node, ast.JoinedStr):
                skip |= {id(part) for part in node.values}
        for node in ast.walk(tree):
            if id(node) in skip:
                continue
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                yield path.name, node.value
            elif isinstance(node, ast.JoinedStr):
                parts = [p.value if isinstance(p, ast.Constant) else "…" for p in node.values]
                yield path.name, "".join(map(str, parts))


PRIVATE = (
    r"\bpiles?\b", r"\bcan(?:not)? be told\b", r"\bis told\b", r"\btells? (?:of|whether|nothing|something)\b",
    r"\bas far as .* either way\b", r"\bthe others held\b", r"\blies? off\b", r"\boff by\b", r"\bleft[- ]over\b",
    r"\balike\b", r"\bgo(?:es)? with\b", r"\bgo together\b", r"\bat once, \b", r"\bworked out\b",
    r"\bdealt (?:out|anew)\b", r"\bmade true\b", r"\btaken apart\b", r"\bno (?:number|distribution|share) that\b",
    r"\bkeeps its word\b", r"\bspeaks? (?:for|against|of)\b", r"\bbears?\b (?:skew|long)", r"\bin ways?\b",
)  # fmt: skip
"""Words of our own that once stood for one of statistics."""
OWN_MEANING = ("goes with what it draws",)


def test_no_private_word_is_left() -> None:
    found = [
        (file, text, pattern)
        for file, text in literals()
        if len(text.split()) > 2
        for pattern in PRIVATE
        if re.search(pattern, text) and not any(one in text for one in OWN_MEANING)
    ]
    assert not found, found[:10]


def test_rare_words_stand_in_the_glossary() -> None:
    known = {word for term in terms().values() for form in term.forms for word in _words(to_plain(form))}
    rare = {}
    for text, names in sentences():
        plain = text
        for name in sorted(names, key=len, reverse=True):
            plain = re.sub(rf"(?<!\w){re.escape(name)}(?:s|es)?(?!\w)", " ", plain)
        for word in _words(plain):
            if zipf_frequency(word, "en") < COMMON and word not in known | NAMES:
                rare[word] = text
    assert not rare, rare


def _words(text: str) -> list[str]:
    return re.findall(r"[a-z]{3,}", text.lower())


def test_sentences_are_short() -> None:
    long = {}
    for text, names in sentences():
        plain = text
        for name in sorted(names, key=len, reverse=True):
            plain = plain.replace(name, "x")
        plain = re.sub(r"\([^)]*\)|\d[\d\u202f.,]*(?: × 10\S+)?(?: %)?", "0", plain)
        plain = re.sub(r"(?:row 0 0, )+", "", plain)
        if len(plain.split()) > LONGEST:
            long[text] = len(plain.split())
    assert not long, long


def test_readings_are_short() -> None:
    """About 120 words at the most, for the examples of every verb."""
    lengths = defaultdict(list)
    for verb, _, found in example_answers():
        if not found.problem:
            lengths[verb].append(sum(len(text.split()) for text in told(found)))
    assert {verb: max(held) for verb, held in lengths.items() if max(held) > 131} == {}
    assert {verb: held for verb, held in lengths.items() if sum(held) / len(held) > 120} == {}


ALWAYS = {"Reject H₀.", "Association does not show that one causes the other."}
"""The decision, and what markers look for wherever a relation was found."""


def test_no_sentence_stands_under_all_answers_of_a_verb() -> None:
    counts: dict[str, Counter[str]] = defaultdict(Counter)
    answers: Counter[str] = Counter()
    for verb, found, _ in corpus():
        answers[verb] += 1
        counts[verb].update({text for text in told(found) if not re.search(r"\d", text)})
    often = [(v, text) for v, c in counts.items() for text, n in c.items() if n > answers[v] / 2 and text not in ALWAYS]
    assert not often, often


def bare_statements() -> Iterator[Statement]:
    """Every verb, kind of data, situation and model of chance with nothing chosen."""
    for verb in ("plot", "describe", "model", "forecast"):
        yield make(verb, table="bushes")
    for verb in ("test", "estimate"):
        for kind in data_kinds():
            yield make(verb, table="bushes", data={"kind": kind})
    for kind in situations():
        yield make("probability", situation={"kind": kind})
    for kind in models():
        yield make("simulate", table="bushes", model={"kind": kind})


PROMPT = r"\bchoose\b|\btype (?!I\b|II\b|III\b|\d)|\(its|\(name|\(the |\bNone\b|“”|: ;|  | ,|\bby ;"


def test_captions_never_hold_a_prompt() -> None:
    tables = dict(demo_study().by_name)
    seen = 0
    for statement in bare_statements():
        caption = statement.text(tables)
        if statement.needs_table and not statement.table:
            continue
        assert not re.search(PROMPT, caption), caption
        found = answer(statement, tables)
        if "…" in caption:
            seen += 1
            assert found.problem is not None, caption
            assert re.search(r"(?:Choose|Type|Add) ", found.problem.sentence), found.problem.sentence
    assert seen > 30


class TestNothingAtOdds:
    """Pairs of what one answer says that would contradict each other."""

    def test_one_decision_and_one_conclusion(self) -> None:
        for _, found, _ in corpus():
            text = " ".join(told(found))
            assert ("Reject H₀." in text) == ("There is enough evidence" in text), text
            assert ("Do not reject H₀." in text) == ("There is not enough evidence, at" in text), text

    def test_no_word_for_rarity_beside_a_conclusion(self) -> None:
        for _, found, _ in corpus():
            text = " ".join(told(found))
            assert not ("rare" in text and "evidence" in text), text

    def test_what_is_not_shown_is_not_suggested_nor_cautioned_as_found(self) -> None:
        for verb, found, _ in corpus():
            if verb == "model" and found.reading.headline.startswith("These data do not show"):
                text = " ".join(told(found))
                assert "Association does not show" not in text
                assert "is related" not in text.removeprefix(to_plain(found.reading.headline))

    def test_a_tick_beside_a_caution_on_the_same_matter(self) -> None:
        for _, found, _ in corpus():
            held = [to_plain(one.text) for one in found.reading.assumptions if one.mark == "holds"]
            cautions = " ".join(found.reading.cautions)
            if re.search(r"Row \d+ is unusual", cautions):
                assert "no unusual rows" not in held
            if "A condition of" in cautions:
                assert any(one.mark == "fails" for one in found.reading.assumptions)
            texts = Counter(to_plain(one.text) for one in found.reading.assumptions)
            marks = {(to_plain(one.text), one.mark) for one in found.reading.assumptions}
            assert len(marks) == len(texts), marks

    @pytest.mark.parametrize("alpha", [0.001, 0.01, 0.05, 0.15, 0.5])
    @pytest.mark.parametrize("alternative", ["different", "greater", "less"])
    def test_the_words_of_p_and_the_interval_follow_the_decision(self, alpha: float, alternative: str) -> None:
        tables = dict(demo_study().by_name)
        for what, by, first, second, method in (
            ("leaf mass", "netting", "open", "netted", "welch t"),
            ("leaf length", "netting", "open", "netted", "pooled t"),
            ("pluck mass", "netting", "netted", "open", "welch t"),
        ):
            data = {"kind": "two levels", "what": what, "by": by, "first": first, "second": second}
            made = make("test", table="bushes", data=data, method=method, alpha=alpha, alternative=alternative)
            found = answer(made, tables)
            numbers: Any = found.numbers[method]
            rejects = numbers["p"] <= alpha
            text = to_plain(" ".join((found.reading.headline, *found.reading.paragraphs)))
            assert ("is below α" in text, "is above α" in text) == (rejects, not rejects)
            assert ("There is enough evidence" in text) is rejects
            if alternative == "different":
                assert ("it does not contain 0" in text) is rejects
                assert ("it contains 0" in text) is not rejects

    def test_one_rule_for_what_is_shown(self) -> None:
        for p, alpha in ((0.05, 0.05), (0.049, 0.05), (0.051, 0.05), (0.01, 0.01), (0.2, 0.15)):
            assert shown(p, alpha) is Evidence(p).rejects(alpha)
            assert ("There is enough" in Evidence(p).conclusion(alpha, "x")) is shown(p, alpha)
        assert contains((1.0, 2.0), 1.0)
        assert not contains((1.0, 2.0), 2.1)

    def test_rare_is_what_a_test_at_the_usual_level_would_reject(self) -> None:
        for share in (0.0, 0.001, 0.0099, 0.01, 0.03, 0.0499):
            assert rarity(share) in ("rare", "very rare")
            assert shown(share)
        for share in (0.051, 0.09, 0.1, 0.6):
            assert rarity(share) in ("fairly rare", "not rare")
            assert not shown(share)


class TestGlossary:
    def test_it_is_large_and_each_term_has_a_meaning_and_an_example(self) -> None:
        assert len(terms()) >= 150
        for term in terms().values():
            assert term.meaning.endswith("."), term.name
            assert term.example, term.name
            assert len(f"{term.meaning} {term.example}".split()) <= 90, term.name

    def test_no_form_stands_for_two_terms(self) -> None:
        forms = Counter(form for term in terms().values() for form in {form.lower() for form in term.forms})
        assert [form for form, n in forms.items() if n > 1] == []

    def test_its_own_words_are_common_or_explained(self) -> None:
        known = {word for term in terms().values() for form in term.forms for word in _words(to_plain(form))}
        rare = {
            word: term.name
            for term in terms().values()
            for word in _words(to_plain(term.meaning))
            if zipf_frequency(word, "en") < 2.6 and word not in known | NAMES
        }
        assert not rare, rare

    def test_the_first_place_of_a_term_is_found_once_and_the_longest_form_of_it(self) -> None:
        text = "p = 0.03 is below α = 0.05: at the 5 % significance level there is enough evidence; enough evidence."
        assert [place.term.name for place in terms_in(text)] == ["significance level", "enough evidence"]
        assert [place.term.name for place in terms_in(text, ["significance level"])] == ["enough evidence"]

    def test_forms_lead_to_their_term(self) -> None:
        assert term_of("standard\u00a0deviations") is term_of("SD")
        assert term_of("no such word") is None

    def test_every_example_reading_has_something_to_look_up(self) -> None:
        for verb, _, found in example_answers():
            if verb in ("test", "estimate", "model", "forecast"):
                assert list(terms_in(" ".join(found.reading.paragraphs) + found.reading.headline)), verb


def test_every_verb_is_among_the_examples() -> None:
    assert {verb for verb, _, _ in corpus()} == set(verbs())


def test_values_that_differ_far_behind_the_comma_are_told_apart() -> None:
    """1e9 + 1 among its neighbours, 1e-9 in a column, and ends of an interval."""
    values = [1e9 + 1.0, 1e9 + 2, 1e9 + 1, 1e9 + 3]
    tables = {"t": make_table("t", "month", x=values)}
    headline = answer(make("describe", table="t", what="x"), tables).reading.headline
    assert (
        "the mean of x is 1\u202f000\u202f000\u202f001.8 and the median is 1\u202f000\u202f000\u202f001.5" in headline
    )
    data = {"kind": "one column", "what": "x"}
    found = answer(make("estimate", table="t", data=data, method="one-sample t"), tables).reading.headline
    low, high = (float(end.replace("\u202f", "")) for end in re.findall(r"1[\u202f\d.]+\d", found.partition("lies")[2]))
    assert 1e9 < low < 1e9 + 1.75 < high
    months = [f"{2015 + k // 12}M{k % 12 + 1:02}" for k in range(48)]
    tiny = {"t": make_table("t", "month", when=months, mass=[1e-9 * (5 + k % 12) for k in range(48)])}
    assert "is 5.00 × 10⁻⁹." in answer(make("forecast", table="t", what="mass"), tiny).reading.headline


@pytest.mark.parametrize(("x", "n", "boxes"), [(24, 40, 40), (0, 1, 1), (50, 50, 50), (130, 300, 1)])
def test_a_share_of_few_cases_is_drawn_case_by_case(x: int, n: int, boxes: int) -> None:
    data = {"kind": "typed share", "groups": [{"x": x, "n": n}]}
    found = answer(make("test", parameter="proportion", method="exact binomial", null=0.5, data=data), {})
    frame = found.picture.frames[0]
    assert frame.title == f"Observed: {x} of {n}"
    (bar,) = frame.panels[0].lanes[0].layers
    assert bar.left.size == boxes
    if boxes > 1:
        assert bar.hollow.count(False) == x
        assert bar.right[-1] == 1.0
        assert bar.right[max(0, x - 1)] == pytest.approx(max(x, 1) / n)
