"""Outcomes with their chances, and claims about them: which outcomes an event is made of.

An outcome has a label at every stage: the levels of two categories, whether each of two events
comes, or what each of several steps gives. An event is a claim that holds of some of them.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.formulas.notation import words
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints


@dataclass(frozen=True)
class SpaceStage:
    """A step, or a category, with the labels that it can give."""

    name: str
    labels: tuple[str, ...]
    letter: str = ""
    """A letter that its first label may be called by as well: A, B."""


@dataclass(frozen=True, eq=False)
class Space:
    """All outcomes."""

    stages: tuple[SpaceStage, ...]
    codes: Ints
    """The label at each stage, shape (outcomes, stages)."""
    chances: Floats
    """Shape (outcomes,); they sum to 1."""
    terms: tuple[str, ...]
    """How the chance of each is worked out, in the notation of formulas: "0.01 × 0.95"."""
    counts: Ints | None = None
    """How many cases each is, where the chances are shares of cases."""

    @property
    def total(self) -> int:
        return int(self.counts.sum()) if self.counts is not None else 0

    def chance(self, holds: Bools) -> float:
        """The chance of the event that holds of these outcomes."""
        return float(min(1.0, self.chances[holds].sum()))

    def count(self, holds: Bools) -> int:
        return int(self.counts[holds].sum()) if self.counts is not None else 0

    def along(self, path: tuple[int, ...]) -> Bools:
        """The outcomes that begin with these labels."""
        return np.asarray((self.codes[:, : len(path)] == np.array(path)).all(axis=1))

    def label(self, outcome: int, stage: int) -> str:
        return self.stages[stage].labels[int(self.codes[outcome, stage])]


class EventClaim(ABC):
    """What may hold of an outcome. It says itself in words and in symbols."""

    binds: ClassVar[int] = 3
    """How strongly its parts hang together: one within another that binds more needs brackets."""

    @abstractmethod
    def holds(self, space: Space) -> Bools:
        """Of which outcomes it holds."""

    @property
    @abstractmethod
    def words(self) -> str: ...

    @property
    def symbols(self) -> str:
        return self.words

    @property
    def formula(self) -> str:
        """Its symbols in the notation of formulas."""
        return words(self.symbols)

    def within(self, text: str, binds: int) -> str:
        """Its text as a part of a claim that binds so strongly."""
        return f"({text})" if self.binds < binds else text


@dataclass(frozen=True)
class Label(EventClaim):
    """A stage gives a label."""

    stage: int
    code: int
    said: str
    """The label, with its stage where several give the same: "first red"."""

    def holds(self, space: Space) -> Bools:
        return np.asarray(space.codes[:, self.stage] == self.code)

    @property
    def words(self) -> str:
        return self.said


@dataclass(frozen=True)
class Opposite(EventClaim):
    of: EventClaim
    binds: ClassVar[int] = 2

    def holds(self, space: Space) -> Bools:
        return np.asarray(~self.of.holds(space))

    @property
    def words(self) -> str:
        if isinstance(self.of, AnyOf) and len(self.of.of) == 2:
            first, second = (one.within(one.words, 2) for one in self.of.of)
            return f"neither {first} nor {second}"
        return f"not {self.of.within(self.of.words, 2)}"

    @property
    def symbols(self) -> str:
        return f"not {self.of.within(self.of.symbols, 2)}"

    @property
    def formula(self) -> str:
        return f"{{not}} {self.of.within(self.of.formula, 2)}"


@dataclass(frozen=True)
class AllOf(EventClaim):
    of: tuple[EventClaim, ...]
    binds: ClassVar[int] = 1

    def holds(self, space: Space) -> Bools:
        return np.asarray(np.logical_and.reduce([one.holds(space) for one in self.of]))

    @property
    def words(self) -> str:
        return " and ".join(one.within(one.words, 1) for one in self.of)

    @property
    def symbols(self) -> str:
        return " ∩ ".join(one.within(one.symbols, 1) for one in self.of)

    @property
    def formula(self) -> str:
        return " ∩ ".join(one.within(one.formula, 1) for one in self.of)


@dataclass(frozen=True)
class AnyOf(EventClaim):
    of: tuple[EventClaim, ...]
    binds: ClassVar[int] = 0

    def holds(self, space: Space) -> Bools:
        return np.asarray(np.logical_or.reduce([one.holds(space) for one in self.of]))

    @property
    def words(self) -> str:
        return " or ".join(one.within(one.words, 1) for one in self.of)

    @property
    def symbols(self) -> str:
        return " ∪ ".join(one.within(one.symbols, 1) for one in self.of)

    @property
    def formula(self) -> str:
        return " ∪ ".join(one.within(one.formula, 1) for one in self.of)


@dataclass(frozen=True)
class Sequence(EventClaim):
    """What the first stages give, one after another: "red then green"."""

    of: tuple[Label, ...]
    plain: tuple[str, ...]

    def holds(self, space: Space) -> Bools:
        return AllOf(self.of).holds(space)

    @property
    def words(self) -> str:
        return " then ".join(self.plain)

    @property
    def symbols(self) -> str:
        return ", ".join(self.plain)

    @property
    def formula(self) -> str:
        return ", ".join(map(words, self.plain))


@dataclass(frozen=True)
class HowMany(EventClaim):
    """Of several claims, so many hold: from `least` to `most`, both included."""

    of: tuple[EventClaim, ...]
    least: int
    most: int
    what: str
    """What is counted: "red", or "of A and B"."""

    def holds(self, space: Space) -> Bools:
        found = np.sum([one.holds(space) for one in self.of], axis=0)
        return np.asarray((found >= self.least) & (found <= self.most))

    @property
    def words(self) -> str:
        of, some = len(self.of), self.what.startswith("of ")
        if self.most == 0:
            return f"none {self.what}" if some else f"no {self.what}"
        if self.least == of and not some:
            return f"{'both' if of == 2 else 'all'} {self.what}"
        if self.least == self.most:
            return f"exactly {self.least} {self.what}"
        if self.most >= of:
            return f"at least {self.least} {self.what}"
        if self.least <= 0:
            return f"at most {self.most} {self.what}"
        return f"from {self.least} to {self.most} {self.what}"


@dataclass(frozen=True)
class Alike(EventClaim):
    """Every stage gives the same label."""

    stages: int
    words: ClassVar[str] = "all the same"

    def holds(self, space: Space) -> Bools:
        names = np.array([[space.label(k, at) for at in range(self.stages)] for k in range(len(space.codes))])
        return np.asarray((names == names[:, :1]).all(axis=1))


@dataclass(frozen=True)
class AskedEvent:
    """One part: a claim, perhaps under a condition; or how two claims stand to each other."""

    claim: EventClaim
    given: EventClaim | None = None
    relation: str = ""
    """ "independent" or "exclusive": whether `claim` and `given` are."""

    @property
    def words(self) -> str:
        if self.relation and self.given is not None:
            between = "independent" if self.relation == "independent" else "mutually exclusive"
            return f"{self.claim.words} and {self.given.words}: {between}?"
        if self.given is None:
            return self.claim.words
        return f"{self.claim.words}, given {self.given.words}"

    @property
    def symbols(self) -> str:
        if self.relation and self.given is not None:
            both = AllOf((self.claim, self.given)).symbols
            if self.relation == "exclusive":
                return f"P({both}) = 0?"
            return f"P({both}) = P({self.claim.symbols}) P({self.given.symbols})?"
        if self.given is None:
            return f"P({self.claim.symbols})"
        return f"P({self.claim.symbols} | {self.given.symbols})"

    @property
    def formula(self) -> str:
        """The probability in the notation of formulas."""
        if self.given is None:
            return f"P({self.claim.formula})"
        return f"P({self.claim.formula} | {self.given.formula})"

    @property
    def pair(self) -> tuple[EventClaim, EventClaim] | None:
        """The two claims that it is about, where it is about two."""
        if self.given is not None:
            return self.claim, self.given
        if isinstance(self.claim, AllOf | AnyOf) and len(self.claim.of) == 2:
            return self.claim.of[0], self.claim.of[1]
        return None
