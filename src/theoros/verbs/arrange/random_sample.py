"""Random sample: some rows, drawn without putting back."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.table.rows import take
from theoros.table.table import Table, TableError
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import number_field, seed_field
from theoros.verbs.core.slots import Phrase, Tables, TypeNumber


@dataclass(frozen=True)
class RandomSample(NewTable):
    """Rows drawn at random, each at most once, in the order in which they stand."""

    verb: ClassVar[str] = "random sample"
    label: ClassVar[str] = "Random sample"
    help: ClassVar[str] = (
        "Draws rows at random, each at most once and every row with the same chance. The same seed draws the same "
        "rows, so others can check it."
    )
    order: ClassVar[int] = 9
    suffix: ClassVar[str] = "sample"
    size: int = number_field(20, "how many rows", TypeNumber(1, 10**7, whole=True))
    seed: int = seed_field()

    def phrase(self, tables: Tables) -> Phrase:
        size, seed = (self.field_slot(name, self.here(tables)) for name in ("size", "seed"))
        return ("Draw ", size, f" rows of {self.table} at random with seed ", seed, *self.ending(tables))

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        if self.size > table.rows:
            raise TableError(f"{table.name} has {table.rows} rows in use, so {self.size} cannot be drawn.")
        drawn = np.random.default_rng(self.seed).choice(table.rows, self.size, replace=False)
        return take(table, np.sort(drawn)), ()

    @property
    def line(self) -> str:
        return f"{self.size} rows drawn at random, seed {self.seed}"


ARRANGEMENTS = (RandomSample,)
