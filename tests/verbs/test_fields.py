"""Fields that carry their slots, and values nested in a statement: on small ones of our own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.verbs.core.fields import (
    Fielded,
    bare_field,
    category_column,
    choice_field,
    columns_field,
    declared,
    level_field,
    number_column,
    number_field,
    seed_field,
    slotted,
    text_field,
)
from theoros.verbs.core.nested import Nested, turned_into
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import MOST_SEED, Option, TypeNumber, TypeSeed, TypeText, next_seed

CUPS = make_table("cups", "cup", heat=[71.0, 68.5], mass=[5.0, 6.0], tea=["Mist", "Jade"], one=["a", "a"])
HERE = Place({"cups": CUPS}, "cups", "inner.")


@dataclass(frozen=True)
class Asked(Fielded):
    what: str | None = number_column("the number")
    other: str | None = number_column("the other", other_than=("what",))
    by: str | None = category_column("the groups")
    level: str | None = level_field("by", "the level")
    beside: tuple[str, ...] = columns_field("further ones", none="none", other_than=("what",))
    n: int | None = number_field(None, "sample size", TypeNumber(1, 100, whole=True))
    sure: float = number_field(0.95, "confidence", TypeNumber(0, 1, percent=True))
    how: str = choice_field("up", "direction", (Option("up", "upwards"), Option("down", "downwards")))
    noun: str = text_field("its name", TypeText(), empty="nothing", reset_by=("what",))
    seed: int = seed_field("cups")
    kept: int = bare_field(3, reset_by=("inside.",))


def test_a_field_makes_its_slot_under_the_path_of_its_holder() -> None:
    asked = Asked(what="heat", level="Mist", by="tea")
    slots = {name: asked.field_slot(name, HERE) for name in slotted(Asked)}
    assert {slot.name for slot in slots.values()} == {f"inner.{name}" for name in slots}
    assert set(declared(Asked)) - set(slots) == {"kept"}
    assert (slots["what"].value, slots["what"].problem) == ("heat", "")
    assert [o.value for o in slots["other"].holds.options] == ["mass"]
    assert [o.value for o in slots["level"].holds.options] == ["Jade", "Mist"]
    assert [o.value for o in slots["beside"].holds.options] == ["mass", "tea", "one"]
    assert (slots["n"].shown, slots["n"].problem) == ("…", "Type the sample size.")
    assert slots["sure"].shown == "95\u00a0%"
    assert slots["how"].shown == "upwards"
    assert slots["noun"].shown == "nothing"
    assert isinstance(slots["seed"].holds, TypeSeed)


def test_what_differs_as_things_stand_is_said_for_the_slot_alone() -> None:
    slot = Asked(n=7).field_slot("n", HERE, label="cups", holds=TypeNumber(1, 5, whole=True), shown="seven")
    assert (slot.label, slot.shown) == ("cups", "seven")
    assert "from 1 to 5" in slot.problem
    assert declared(Asked)["n"].label == "sample size"


def test_columns_are_chosen_where_there_are_none_that_fit() -> None:
    made = Asked(what="tea", other="heat", by="one", beside=("mass", "gone", "heat")).with_columns_of(CUPS)
    assert (made.what, made.other, made.by) == ("heat", "mass", "one")
    assert made.beside == ("mass",)
    assert Asked().with_columns_of(CUPS).by == "tea"  # one with two levels, unasked


def test_fields_are_put_back_by_the_slots_that_they_hang_on() -> None:
    made = Asked(noun="pot", kept=9)
    assert made.put_back("what").noun == ""
    assert made.put_back("other") == made
    assert made.put_back("inside.x").kept == 3
    assert made.put_back("inside") == made


@pytest.mark.parametrize(("field", "value", "told"), [
    ("n", 0, "n cannot be 0. Type a whole number from 1 to 100."),
    ("n", 100, ""),
    ("seed", -1, "seed cannot be -1."),
    ("seed", 2**40, ""),
    ("sure", 7.0, ""),  # a slot says that, where it is shown
])  # fmt: skip
def test_what_no_slot_would_take_is_told(field: str, value: float, told: str) -> None:
    said = Asked(**{field: value}).misfit()
    assert said.startswith(told) if told else said == ""


@dataclass(frozen=True)
class Square(Nested):
    kind: ClassVar[str] = "square"
    label: ClassVar[str] = "a square"
    help: ClassVar[str] = "All sides are equal."
    side: int | None = number_field(None, "side", TypeNumber(1, 9, whole=True))
    name: str = text_field("name", TypeText())


@dataclass(frozen=True)
class Box(Nested):
    kind: ClassVar[str] = "box"
    label: ClassVar[str] = "a box"
    help: ClassVar[str] = "Holds a square."
    name: str = text_field("name", TypeText())
    side: str = text_field("side", TypeText())
    inner: Square = Square()


def test_another_kind_takes_along_what_has_the_same_name_and_type() -> None:
    made = turned_into(Square(side=3, name="tray"), Box, HERE)
    assert made == Box(name="tray")
    assert [slot.name for slot in Square(side=3).slots(HERE)] == ["inner.side", "inner.name"]


@given(st.integers(0, MOST_SEED))
def test_another_seed_is_one_that_its_slot_holds(seed: int) -> None:
    slot = Asked(seed=seed).field_slot("seed", HERE)
    another = next_seed(seed)
    assert another != seed
    assert slot.holds.problem(another) == ""
    assert slot.holds.problem(MOST_SEED + 1)
    assert slot.holds.help == "The same seed, the same cups."
