"""A curve through pairs as far as it is worked out: what tables, pictures and words read from."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property

from theoros.verbs.core.slots import Tables
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.curves.fits import Diagnosed, FitCache, curve_of, fit_group
from theoros.verbs.model.curves.nested_models import NestedTest, separate_against_one, slopes_alike
from theoros.verbs.model.data import ModelPairs, PairsGroup
from theoros.verbs.model.statement import ModelStatement


@dataclass(frozen=True, eq=False)
class GroupFit:
    """A group with its curve, or in words why there is none."""

    group: PairsGroup
    fitted: Fitted | str

    @property
    def curve(self) -> Fitted | None:
        return self.fitted if isinstance(self.fitted, Fitted) else None


@dataclass(eq=False)
class CurveReport:
    """A model with its pairs, ready to be written up with the curves that are there."""

    s: ModelStatement
    tables: Tables
    through: FitCache
    found: dict[str, Diagnosed | str] = field(default_factory=dict)
    """The curves that stand beside the chosen one, by name."""

    @property
    def pairs(self) -> ModelPairs:
        return self.through.pairs

    @cached_property
    def drawn(self) -> list[GroupFit]:
        """Each group with its curve."""
        if len(self.pairs.groups) == 1 and self.s.by is None:
            one = self.chosen
            return [GroupFit(self.through.group, one if isinstance(one, str) else one.fitted)]
        curve = curve_of(self.s)
        return [GroupFit(group, fit_group(curve, group)) for group in self.pairs.groups]

    @cached_property
    def chosen(self) -> Diagnosed | str:
        """The chosen curve through all pairs."""
        return self.through.curve(self.s)

    @property
    def grouped(self) -> bool:
        return len(self.drawn) > 1

    @property
    def fits(self) -> list[Fitted]:
        return [one.curve for one in self.drawn if one.curve is not None]

    @cached_property
    def separate(self) -> NestedTest | None:
        """Whether the groups take curves of their own."""
        if not self.grouped or isinstance(self.chosen, str) or len(self.fits) < len(self.drawn):
            return None
        return separate_against_one(self.chosen.fitted, self.fits)

    @cached_property
    def alike(self) -> tuple[NestedTest | None, float]:
        if not curve_of(self.s).regression_line or not self.grouped:
            return None, math.nan
        return slopes_alike([one.group for one in self.drawn if one.curve is not None])
