"""Reads events as people say or write them: "netted and fine", "fine given open", "1 red"."""

from __future__ import annotations

import re
from collections.abc import Sequence as Several
from dataclasses import dataclass

from theoros.answer.wording import listed
from theoros.verbs.probability.data import LONGEST, NotUnderstood
from theoros.verbs.probability.outcomes.space import (
    Alike,
    AllOf,
    AnyOf,
    AskedEvent,
    EventClaim,
    HowMany,
    Label,
    Opposite,
    Sequence,
    SpaceStage,
)

ORDINALS = ("first", "second", "third", "fourth", "fifth")
_NTH = {name: at for at, name in enumerate(ORDINALS)} | {"1st": 0, "2nd": 1, "3rd": 2, "4th": 3, "5th": 4}
_NUMBERS = {"zero": 0, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "once": 1, "twice": 2}
_SAME = {"&": "and", "∩": "and", "but": "and", "∪": "or", "∨": "or", "∧": "and", "¬": "not",
         "|": "given", "if": "given", "ᶜ": "'", "′": "'", "’": "'"}  # fmt: skip
_FILLERS = frozenset(
    ("is", "are", "be", "a", "an", "the", "that", "it", "which", "being", "also", "of", "on", "in",
     "draw", "draws", "drawn", "step", "comes", "come", "out")
)  # fmt: skip
_YES = frozenset({"yes", "true", "y"})
_WORD = re.compile(r"\d{1,6}(?:st|nd|rd|th)?|[^\W\d_]+|.", re.DOTALL)
_AMOUNTS = (
    (r"exactly|precisely|just|only", lambda n, of: (n, n)),
    (r"at least|no fewer than|no less than|≥|>=", lambda n, of: (n, of)),
    (r"at most|no more than|up to|≤|<=", lambda n, of: (0, n)),
    (r"more than|over|>", lambda n, of: (n + 1, of)),
    (r"fewer than|less than|under|<", lambda n, of: (0, n - 1)),
)


def read_event(text: str, stages: Several[SpaceStage]) -> AskedEvent:
    """What is asked of outcomes with such stages. Raises NotUnderstood."""
    plain = " ".join(text.split())
    if not plain:
        raise NotUnderstood(f"Type an event, such as “{example(stages)}”.")
    if len(plain) > LONGEST:
        raise NotUnderstood(f"A part can have {LONGEST} letters at most.")
    found = re.fullmatch(r"[Pp]r?\s*[(\[](.*)[)\]]", plain)
    plain = found[1] if found and _closed(found[1]) else plain
    return _EventReader(plain.rstrip(".?! "), text, stages).asked()


def example(stages: Several[SpaceStage]) -> str:
    """A part that could be asked."""
    first, last = stages[0].labels, stages[-1].labels
    if len(stages) > 1 and first == last:
        return f"exactly 1 {first[0]}"
    if len(stages) > 1:
        return f"{last[0]} given {first[0]}"
    return first[0]


def said_label(stages: Several[SpaceStage], stage: int, code: int) -> str:
    """A label as it is said alone: with its stage, where several give the same."""
    own, name = stages[stage].labels[code], stages[stage].name
    others = [s.labels for at, s in enumerate(stages) if at != stage]
    if own.lower() in _YES and name and len(stages[stage].labels) == 2:
        return name
    if not any(own in labels for labels in others):
        return own
    return f"{name} {own}" if name else own


def _closed(text: str) -> bool:
    """Whether every bracket in it is closed in it."""
    depth = 0
    for letter in text:
        depth += (letter in "([") - (letter in ")]")
        if depth < 0:
            return False
    return depth == 0


@dataclass(frozen=True)
class _EventToken:
    kind: str
    """ "label" with the places it may stand for, "word", or "number"."""
    text: str
    places: tuple[tuple[int, int], ...] = ()
    number: int = 0


class _EventReader:
    def __init__(self, plain: str, whole: str, stages: Several[SpaceStage]) -> None:
        self.whole, self.stages = whole.strip(), stages
        self.names = _names(stages)
        self.tokens = self._tokens(plain)
        self.at = 0

    # tokens

    def _tokens(self, text: str) -> list[_EventToken]:
        """Labels are found first, the longest that fits; what is left must be known words."""
        made, low = [], text.lower()
        names = sorted(self.names, key=len, reverse=True)
        at = 0
        while at < len(low):
            if low[at] in " ,;:":
                at += 1
                continue
            name = next((n for n in names if low.startswith(n, at) and _ends(low, at, n)), None)
            if name is not None:
                made.append(_EventToken("label", name, self.names[name]))
                at += len(name)
                continue
            found = _WORD.match(low, at)
            assert found is not None
            word = found[0]
            at = found.end()
            number = int(word) if word.isdecimal() else _NUMBERS.get(word)
            if number is not None:
                made.append(_EventToken("number", word, number=min(number, 10**6)))
            else:
                made.append(_EventToken("word", _SAME.get(word, word)))
        return made

    @property
    def now(self) -> str:
        """The word that stands here; of a label or a number what it is."""
        if self.at >= len(self.tokens):
            return ""
        token = self.tokens[self.at]
        return token.text if token.kind == "word" else f"<{token.kind}>"

    def _phrase(self, *words: str) -> bool:
        """Goes past words that follow each other here; whether they do."""
        ahead = self.tokens[self.at : self.at + len(words)]
        if [one.text for one in ahead] == list(words):
            self.at += len(words)
            return True
        return False

    def _skip(self) -> None:
        while self.now in _FILLERS:
            self.at += 1

    # grammar

    def asked(self) -> AskedEvent:
        relation = self._relation()
        if relation is not None:
            return relation
        claim = self._any()
        given = None
        if self.now == "given":
            self.at += 1
            given = self._any()
        self._skip()
        if self.at < len(self.tokens):
            self._lost()
        return AskedEvent(claim, given)

    def _relation(self) -> AskedEvent | None:
        """Whether two events are independent, or exclude each other; None for another question."""
        words = {token.text for token in self.tokens if token.kind == "word"}
        asks = "independent" if words & {"independent", "independence"} else ""
        if words & {"exclusive", "exclude", "disjoint", "excludes"}:
            asks = "exclusive"
        if not asks:
            return None
        labels = [token for token in self.tokens if token.kind == "label"]
        if len(labels) != 2:
            raise NotUnderstood(f"Name the two events, such as “{' and '.join(self._two())} {asks}”.")
        one, two = (self._label(token, at) for at, token in enumerate(labels))
        return AskedEvent(one, two, asks)

    def _two(self) -> tuple[str, str]:
        stages = self.stages
        last = len(stages) - 1
        return said_label(stages, 0, 0), said_label(stages, last, 0 if last else -1)

    def _any(self) -> EventClaim:
        claims = [self._all()]
        while self.now == "or":
            self.at += 1
            claims.append(self._all())
        if len(claims) == 1:
            return claims[0]
        if self._phrase("and", "not", "both"):  # "but" is read as "and"
            return HowMany(tuple(claims), 1, 1, f"of {' and '.join(c.words for c in claims)}")
        return AnyOf(tuple(claims))

    def _all(self) -> EventClaim:
        claims = [self._one()]
        while True:
            self._skip()
            if self.now == "and" and [t.text for t in self.tokens[self.at + 1 : self.at + 3]] == ["not", "both"]:
                break
            if self.now == "then":
                return self._sequence(claims)
            if self.now == "and":
                self.at += 1
            elif self.now not in ("<label>", "<number>", "not", "(", *_NTH):
                break
            claims.append(self._one())
        return claims[0] if len(claims) == 1 else AllOf(tuple(claims))

    def _sequence(self, claims: list[EventClaim]) -> EventClaim:
        """ "red then green": what follows stands for the stages in turn."""
        tokens = [self.tokens[self.at - 1]]
        while self.now == "then":
            self.at += 1
            self._skip()
            if self.now != "<label>":
                self._lost()
            tokens.append(self.tokens[self.at])
            self.at += 1
        if len(claims) > 1 or tokens[0].kind != "label":
            self._lost()
        if len(tokens) > len(self.stages):
            raise NotUnderstood(f"“{self.whole}” names {len(tokens)} steps, and there are {len(self.stages)}.")
        labels = tuple(self._label(token, at, fixed=True) for at, token in enumerate(tokens))
        plain = tuple(self.stages[one.stage].labels[one.code] for one in labels)
        return Sequence(labels, plain)

    def _one(self) -> EventClaim:
        self._skip()
        if self._phrase("not"):
            return Opposite(self._one())
        if self._phrase("neither"):
            return self._neither()
        if self.now in ("(", "["):
            self.at += 1
            inner = self._any()
            if self.now not in (")", "]"):
                raise NotUnderstood(f"A bracket in “{self.whole}” is not closed.")
            self.at += 1
            return self._raised(inner)
        if self._phrase("either"):
            return self._one()
        amount = self._amount()
        if amount is not None:
            return amount
        if self.now in _NTH:
            stage = _NTH[self.now]
            self.at += 1
            self._skip()
            return self._raised(self._taken(stage))
        if self.now == "<label>":
            return self._raised(self._taken(None))
        self._lost()
        raise AssertionError

    def _raised(self, claim: EventClaim) -> EventClaim:
        """With a sign of the opposite behind it: "A'"."""
        while self._phrase("'"):
            claim = Opposite(claim)
        return claim

    def _neither(self) -> EventClaim:
        self._skip()
        if self.now == "<label>" and len(self.tokens[self.at].places) > 1:  # "neither red"
            return self._repeated(0, 0, self.at)
        first = self._one()
        if self.now not in ("nor", "or", "and"):
            self._lost()
        self.at += 1
        return Opposite(AnyOf((first, self._one())))

    def _amount(self) -> EventClaim | None:
        """ "at least 1 red", "both red", "exactly one of A and B"; None for another thing."""
        of = len(self.stages)
        start = self.at
        if self._phrase("all", "the", "same") or self._phrase("the", "same") or self._phrase("same"):
            return Alike(of)
        if (self._phrase("all", "different") and of == 2) or self._phrase("different"):
            return Opposite(Alike(of))
        if self._phrase("both") or self._phrase("all"):
            self._skip()
            return self._repeated(of, of, start)
        bounds = None
        for words, make in _AMOUNTS:
            for phrase in words.split("|"):
                if self._phrase(*phrase.split()):
                    bounds = make
                    break
            if bounds:
                break
        if self.now == "<number>":
            number = self.tokens[self.at].number
            self.at += 1
            low, high = bounds(number, of) if bounds else (number, number)
            found = self._list(low, high)
            self._skip()
            if found is not None:
                return found
            if self.now == "<label>":
                return self._repeated(low, high, start)
        self.at = start
        if self._phrase("none") or self._phrase("no"):
            return self._list(0, 0) or self._repeated(0, 0, start)
        return None

    def _list(self, low: int, high: int) -> EventClaim | None:
        """ "of A and B" behind a number; None where it does not follow."""
        if not self._phrase("of"):
            return None
        claims = [self._one()]
        while self.now in ("and", "or"):
            self.at += 1
            claims.append(self._one())
        what = f"of {listed([c.words for c in claims])}"
        return HowMany(tuple(claims), low, min(high, len(claims)), what)

    def _repeated(self, low: int, high: int, start: int) -> EventClaim:
        """So many stages give a label."""
        if self.now != "<label>":
            self.at = start
            self._lost()
        token = self.tokens[self.at]
        self.at += 1
        if high >= 2 and low == len(self.stages) and len(token.places) < len(self.stages):
            # "both A and B"
            claims: list[EventClaim] = [self._label(token, None)]
            while self.now == "and":
                self.at += 1
                claims.append(self._one())
            return AllOf(tuple(claims)) if len(claims) > 1 else claims[0]
        return self._counted(token.text, low, high)

    def _counted(self, name: str, low: int, high: int) -> EventClaim:
        places = self.names.get(name.lower(), ())
        labels = tuple(Label(stage, code, "") for stage, code in places)
        shown = self.stages[places[0][0]].labels[places[0][1]]
        if len(labels) == 1 and high == 0:
            return Opposite(self._label(_EventToken("label", name, places), None))
        return HowMany(labels, low, min(high, len(labels)), shown)

    def _taken(self, stage: int | None) -> EventClaim:
        """The label that stands here, and what may follow it to say at which stage."""
        if self.now != "<label>":
            self._lost()
        token = self.tokens[self.at]
        self.at += 1
        if stage is None and len(token.places) > 1:
            ahead = self.at
            while self.now in _FILLERS:
                self.at += 1
            if self.now in _NTH:
                stage = _NTH[self.now]
                self.at += 1
            else:
                self.at = ahead
        if stage is None and self.now == "then":
            stage = 0
        return self._label(token, stage, fixed=stage is not None)

    def _label(self, token: _EventToken, stage: int | None, *, fixed: bool = False) -> Label:
        places = token.places
        if len(places) > 1 or (fixed and stage is not None):
            wanted = [place for place in places if place[0] == stage]
            if not wanted and fixed and stage is not None:
                where = ORDINALS[stage] if stage < len(ORDINALS) else f"{stage + 1}th"
                raise NotUnderstood(f"“{token.text}” cannot come {where}.")
            if not wanted:
                shown = self.stages[places[0][0]].labels[places[0][1]]
                raise NotUnderstood(
                    f"Say at which step: “first {shown}”, “second {shown}”, or how many, such as “exactly 1 {shown}”."
                )
            places = tuple(wanted)
        at, code = places[0]
        return Label(at, code, said_label(self.stages, at, code))

    def _lost(self) -> None:
        """Nothing can be made of what stands here."""
        have = listed([f"“{name}”" for name in _shown_names(self.stages)])
        if self.at >= len(self.tokens):
            raise NotUnderstood(f"Something is missing in “{self.whole}”. Events: {have}.")
        text = self.tokens[self.at].text
        raise NotUnderstood(f"“{text}” is not understood here. Events are {have}, joined by and, or, not, given.")


def _ends(low: str, at: int, name: str) -> bool:
    """Whether a name that begins here is no piece of a longer word."""
    end = at + len(name)
    before = at == 0 or not (low[at - 1].isalnum() and name[0].isalnum())
    return before and (end == len(low) or not (low[end].isalnum() and name[-1].isalnum()))


def _shown_names(stages: Several[SpaceStage]) -> list[str]:
    if len({stage.labels for stage in stages}) == 1 and len(stages) > 1:
        return list(stages[0].labels)
    names = [said_label(stages, at, code) for at, s in enumerate(stages) for code in range(len(s.labels))]
    return names if len(names) <= 12 else [*names[:11], "…"]


def _names(stages: Several[SpaceStage]) -> dict[str, tuple[tuple[int, int], ...]]:
    """What labels may be called, in small letters, and where each stands."""
    found: dict[str, list[tuple[int, int]]] = {}
    for at, stage in enumerate(stages):
        for code, label in enumerate(stage.labels):
            name = stage.name.lower()
            calls = [label.lower()]
            if name:
                calls += [
                    f"{name} {calls[0]}",
                    f"{name} = {calls[0]}",
                    f"{name}={calls[0]}",
                    f"{name}: {calls[0]}",
                    f"{name} is {calls[0]}",
                ]
            if label.lower() in _YES and len(stage.labels) == 2 and name:
                calls.append(name)
            if code == 0 and stage.letter:
                calls.append(stage.letter.lower())
            for call in dict.fromkeys(calls):
                if call:
                    found.setdefault(call, []).append((at, code))
    return {name: tuple(places) for name, places in found.items()}
