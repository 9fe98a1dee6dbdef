"""Several outcomes with weights: coins, dice, bags of labelled things."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.wording import exact, shortened
from theoros.lazy_imports import np
from theoros.numeric.chance.draws import MOST_IN_BAG, Bag
from theoros.verbs.core.fields import choice_field, text_field, word_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, SlotGrid, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.simulate.models.model import ChanceModel, DrawnModel, size
from theoros.verbs.simulate.sampling.facts import Facts, Takes, moments_of
from theoros.verbs.simulate.sampling.outcome_list import Outcome, listed_text, outcomes_of, whole_weights, worth_of

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure

DRAW = "draw"
MOST_ACROSS = 7
"""Up to so many outcomes stand side by side, and so take less room."""
REPLACED = (
    Option(True, "with replacement", help="Each draw is from all of them again."),
    Option(False, "without replacement", help="The weights are how many there are of each."),
)


def listed_outcomes() -> str:
    """A field for outcomes with their weights, as one text."""
    holds = TypeText("Outcomes, separated by commas: “1 to 6”, “heads, tails”, “red: 3, blue: 2”.", longest=600)
    return text_field("the outcomes", holds, "The outcomes.", empty="…", default="1 to 6")


def listed_slot(model: ChanceModel, place: Place) -> Slot:
    """Its slot."""
    slot = model.field_slot("listed", place)
    try:
        outcomes_of(slot.value)
    except StatementError as problem:
        slot = replace(slot, missing=str(problem))
    return replace(slot, shown=shortened(slot.shown, 60))


def listed_after(listed: str, field: str, value: object) -> str | None:
    """The outcomes after they, or a cell of their grid, were typed; None for another field. Raises StatementError."""
    if field.startswith("grid."):
        return with_cell(listed, field, value)
    return listed_text(outcomes_of(str(value))) if field == "listed" else None


def listed_grid(place: Place, listed: str) -> SlotGrid | None:
    """The same outcomes in a grid, with a row that waits for one more."""
    try:
        found = outcomes_of(listed)
    except StatementError:
        return None
    rows = []
    for at in range(len(found) + 1):
        name, weight = "", None
        if at < len(found):
            name, weight = found[at].name, found[at].weight
        named = text_slot(f"grid.{at}.name", f"outcome {at + 1}", name, TypeText(longest=60), empty="one more")
        holds = TypeNumber(0, 1e9, auto=True, help="Its weight compared with the other outcomes.")
        weighed = number_slot(
            f"grid.{at}.weight",
            f"weight of {name or 'one more'}",
            weight,
            holds,
            exact(weight) if weight is not None else "…",
        )
        rows.append((place.slot(named), place.slot(weighed)))
    label = "outcomes and their weights"
    if len(rows) > MOST_ACROSS:
        return SlotGrid(label, ("outcome", "weight"), tuple(rows))
    names, weights = zip(*rows, strict=True)
    across = ("", *("" for _ in rows))
    return SlotGrid(label, across, (("outcome", *names), ("weight", *weights)))


def with_cell(listed: str, field: str, value: object) -> str:
    """The text after a cell of its grid was typed. Raises StatementError."""
    _, at, name = field.split(".")
    found = list(outcomes_of(listed))
    place = int(at)
    if place >= len(found):
        found.append(Outcome("", 1.0))
        place = len(found) - 1
    if name == "name":
        found[place] = replace(found[place], name=" ".join(str(value).split()))
    else:
        assert value is None or isinstance(value, int | float)
        found[place] = replace(found[place], weight=float(value or 0.0))
    kept = tuple(one for one in found if one.name)
    if any(sign in one.name for one in kept for sign in ",;:"):
        raise StatementError("The name of an outcome has no comma, colon or semicolon in it.")
    made = listed_text(kept)
    outcomes_of(made)
    return made


@dataclass(frozen=True)
class BagModel(DrawnModel):
    kind: ClassVar[str] = "outcomes"
    label: ClassVar[str] = "several outcomes"
    help: ClassVar[str] = "Coins, dice, a bag of labelled things, each with its weight."
    order: ClassVar[int] = 20
    statistic: ClassVar[str] = "number"
    case: str = word_field("one case", "What one draw is, such as “toss” or “bead”.", empty=DRAW)
    listed: str = listed_outcomes()
    n: int | None = size()
    replace: bool = choice_field(True, "replacement", REPLACED)
    varies: ClassVar[tuple[str, ...]] = ("n",)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        case, n, back = (self.field_slot(name, place) for name in ("case", "n", "replace"))
        return ("If each ", case, " gives one of ", listed_slot(self, place), ", draw ", n, " ", back)

    def grid(self, place: Place) -> SlotGrid | None:
        return listed_grid(place, self.listed)

    def put(self, field: str, value: object, place: Place) -> tuple[ChanceModel, list[str]] | None:
        text = listed_after(self.listed, field, value)
        return None if text is None else (replace(self, listed=text), [])

    def _found(self) -> tuple[Outcome, ...]:
        try:
            return outcomes_of(self.listed)
        except StatementError:
            return ()

    def outcomes(self, place: Place) -> tuple[str, ...]:
        return tuple(one.name for one in self._found())

    def takes_now(self, place: Place) -> tuple[Takes, ...]:
        names = self.outcomes(place)
        return ("names", "numbers") if names and worth_of(names) is not None else ("names",)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        assert self.n is not None
        found = outcomes_of(self.listed)
        names = tuple(one.name for one in found)
        weights = tuple(one.weight for one in found)
        case = self.case.strip() or DRAW
        finite = None
        if not self.replace:
            try:
                whole_weights(found, self.n, case)
            except StatementError as problem:
                raise CannotAnswer(str(problem), "model.n") from None
            finite = int(sum(weights))
            if finite > MOST_IN_BAG:
                raise CannotAnswer(
                    f"There are {counted(finite, case)}, more than the {MOST_IN_BAG} that can be used without "
                    "replacement. Draw with replacement: with so many cases it makes almost no difference.",
                    "model.replace",
                )
        shares = np.array(weights) / sum(weights)
        worth = worth_of(names)
        return Facts(
            Bag(weights, self.n, self.replace),
            ("bag", weights, names, self.n, self.replace),
            frozenset(self.takes_now(place)),
            self.n,
            case=case,
            names=(names,),
            worth=(worth,) if worth is not None else (),
            chances=tuple(((at,), float(share)) for at, share in enumerate(shares)),
            moments=moments_of(worth, shares) if worth is not None else None,
            finite=finite,
            decimals=0 if worth is None or np.all(worth == np.round(worth)) else 2,
        )

    def title(self) -> str:
        return f"Draws from {shortened(self.listed, 30)}"


MODELS = (BagModel,)
