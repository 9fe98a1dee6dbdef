"""Claims without a direction: that several are not all equal, shares not as claimed, a relation."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.nouns import counted, plural
from theoros.answer.wording import exact, listed_briefly, number, unmarked, whole, with_unit
from theoros.numeric.arrays import Alternative
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, TwoWayCounts
from theoros.verbs.data.samples import OneSample, RepeatedSamples, SeveralSamples, TwoFactorSamples
from theoros.verbs.procedures.hypotheses.comparison_claim import ComparisonClaim
from theoros.verbs.procedures.hypotheses.hypotheses import Claim

if TYPE_CHECKING:
    from theoros.answer.parts import Symbol
    from theoros.verbs.parameters.parameter import Parameter

MOST_LETTERS = 5
"""As many are written out in the hypotheses."""


def claim_of(
    data: Observation, parameter: Parameter, alternative: Alternative, null: float, alpha: float, bounded: bool = False
) -> Claim:
    """The claim about such data."""
    if not parameter.directed and isinstance(data, OneSample):
        made: dict[str, type[Claim]] = {"shape": ShapeClaim, "order": OrderClaim}
        return made[parameter.name](data, parameter, alternative, null, alpha)
    if isinstance(data, TwoWayCounts) and data.matched:
        return Changed(data, parameter, alternative, null, alpha)
    kinds: dict[type, type[Claim]] = {
        SeveralSamples: SeveralEqual,
        RepeatedSamples: SeveralEqual,
        TwoFactorSamples: ByTwo,
        CountsOfLevels: SharesAsClaimed,
        TwoWayCounts: Related,
    }
    return kinds.get(type(data), ComparisonClaim)(data, parameter, alternative, null, alpha, bounded)


@dataclass(frozen=True)
class SeveralEqual(Claim):
    data: SeveralSamples

    @property
    def _letters(self) -> list[str]:
        return list(self.parameter.letters(self.data))

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        letters = self._letters
        if len(letters) > MOST_LETTERS:
            letters = [*letters[:2], "…", letters[-1]]
        return (
            Symbol(f"H_{{0}}: {' = '.join(letters)}"),
            Symbol(f"H_{{1}}: not all {self.parameter.plural} are equal"),
            Symbol(f"{self.parameter.symbol}: {self.parameter.name} of the population", "mute"),
        )

    def meaning(self) -> str:
        said = self.data.meanings(self.parameter.clause)
        pairs = list(zip(self._letters, said, strict=True))
        more = len(pairs) - MOST_LETTERS
        told = "; ".join(f"{letter} is {meaning}" for letter, meaning in pairs[:MOST_LETTERS])
        return f"{told}; and so on for {more} more." if more > 0 else f"{told}."

    def sentence(self) -> str:
        names = listed_briefly([sample.said for sample in self.data.groups], 6)
        return f"the {self.parameter.clause} {self.data.measure} differs between at least two of {names}"

    def observed(self) -> str:
        places = min(6, self.data.decimals + 1)
        said = [
            f"{s.said} {with_unit(number(self.parameter.value(s), places), self.data.unit)}" for s in self.data.groups
        ]
        return f"{self.parameter.plural} of {listed_briefly(said, 6)}"

    def not_shown(self) -> str:
        return (
            f"This does not show that all {self.parameter.plural} are equal: differences may be "
            f"there that these data cannot show."
        )


@dataclass(frozen=True)
class ByTwo(Claim):
    """What one of two categories does to means, or that it depends on the other."""

    data: TwoFactorSamples

    @property
    def _names(self) -> tuple[str, str]:
        """The category that the claim is about, and the other one."""
        one, two = self.data.factors
        return (two, one) if self.data.effect == "second" else (one, two)

    @property
    def _mixed(self) -> bool:
        return self.data.effect == "interaction"

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        name, other = self._names
        if self._mixed:
            return (
                Symbol(f"H_{{0}}: {unmarked(name)} and {unmarked(other)} do not interact"),
                Symbol(f"H_{{1}}: {unmarked(name)} and {unmarked(other)} interact"),
            )
        return (
            Symbol(f"H_{{0}}: the means of all levels of {unmarked(name)} are equal"),
            Symbol(f"H_{{1}}: not all means of the levels of {unmarked(name)} are equal"),
        )

    def meaning(self) -> str:
        name, other = self._names
        if self._mixed:
            return (
                f"No interaction: in the population, the differences between levels of {name} are the same "
                f"for every level of {other}."
            )
        return f"Means of {self.data.measure} in the population, allowing for {other}."

    def sentence(self) -> str:
        name, other = self._names
        measure = f"the {self.parameter.clause} {self.data.measure}"
        if self._mixed:
            return f"the difference in {measure} between levels of {name} depends on {other}"
        return f"{measure} differs between levels of {name}, allowing for {other}"

    def observed(self) -> str:
        pairs = len(self.data.groups)
        return f"{counted(self.data.values.size, 'value')} in {counted(pairs, 'pair')} of levels"

    def not_shown(self) -> str:
        if self._mixed:
            return "This does not show that there is no interaction: there may be one that these data cannot show."
        return "This does not show that the means are equal: differences may be there that these data cannot show."


def _share_of(level: str) -> str:
    """The letter for the share of a level: p with the level below it, or in brackets where it is a number.

    p₀ is the claimed proportion elsewhere.
    """
    name = unmarked(level)
    return f"p({name})" if name[:1].isdigit() else f"p_{{{name}}}"


@dataclass(frozen=True)
class SharesAsClaimed(Claim):
    data: CountsOfLevels

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        data = self.data
        k = len(data.levels)
        if data.law:
            estimated = f"estimated: {data.law_values}"
            return (
                Symbol(f"H_{{0}}: {unmarked(data.name)} has {unmarked(data.law)}"),
                Symbol(f"H_{{1}}: {unmarked(data.name)} has another distribution"),
                *([Symbol(estimated, "mute")] if data.law_values else []),
            )
        if not data.claimed_text:
            letters = [_share_of(level) for level in data.levels]
            shown = letters if k <= MOST_LETTERS else [*letters[:2], "…", letters[-1]]
            null = f"{' = '.join(shown)} = 1/{k}"
        else:
            pairs = zip(data.levels, data.claimed, strict=True)
            said = [f"{_share_of(level)} = {exact(round(p, 4))}" for level, p in pairs]
            null = ", ".join(said if k <= MOST_LETTERS else [*said[:2], "…", said[-1]])
        return (
            Symbol(f"H_{{0}}: {null}"),
            Symbol("H_{1}: not all shares are as claimed"),
            Symbol("p: share in the population", "mute"),
        )

    def meaning(self) -> str:
        many = plural(self.data.noun)
        if self.data.law:
            return f"H_{{0}} is about {self.data.name} of all {many} that these were drawn from."
        return f"Each p is the share of one level of {self.data.name} among all {many}."

    def sentence(self) -> str:
        if self.data.law:
            return f"{self.data.name} does not have {self.data.law}"
        claimed = self.data.claimed_text
        how = "all equal" if not claimed else f"in the ratio {claimed}" if ":" in claimed else claimed
        return f"the shares of {self.data.name} are not {how}"

    def observed(self) -> str:
        pairs = zip(self.data.levels, self.data.counts.tolist(), strict=True)
        return f"{listed_briefly([f'{level}: {count}' for level, count in pairs], 6)}"

    def not_shown(self) -> str:
        if self.data.law:
            return "This does not show that it has this distribution: others may give such counts as well."
        return "This does not show that the shares are as claimed: other shares may give such counts as well."


@dataclass(frozen=True)
class Related(Claim):
    data: TwoWayCounts

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        one, two = (unmarked(name) for name in self.data.names)
        return (Symbol(f"H_{{0}}: {one} and {two} are independent"), Symbol(f"H_{{1}}: {one} and {two} are related"))

    def meaning(self) -> str:
        one, two = self.data.names
        return f"Independent: in the population, the shares of {two} are the same for every level of {one}."

    def sentence(self) -> str:
        one, two = self.data.names
        return f"{one} and {two} are related"

    def observed(self) -> str:
        rows, columns = self.data.counts.shape
        return f"a table of {rows} by {columns} with {counted(self.data.total, self.data.noun)}"

    def not_shown(self) -> str:
        one, two = self.data.names
        return (
            f"This does not show that {one} and {two} are unrelated: a relation may be there that these counts "
            "cannot show."
        )


@dataclass(frozen=True)
class Changed(Claim):
    data: TwoWayCounts

    @property
    def _level(self) -> str:
        return self.data.rows[0]

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        one, two = (f"p_{{{unmarked(name)}}}" for name in self.data.names)
        return (
            Symbol(f"H_{{0}}: {one} = {two}"),
            Symbol(f"H_{{1}}: {one} ≠ {two}"),
            Symbol(f"p: share of “{unmarked(self._level)}” in the population", "mute"),
        )

    def meaning(self) -> str:
        one, two = self.data.names
        return (
            f"Each p is the share of “{self._level}” in the population, once for {one} and once for {two} of the "
            f"same {plural(self.data.noun)}."
        )

    def sentence(self) -> str:
        one, two = self.data.names
        return f"the share of “{self._level}” in {two} differs from that in {one}"

    def observed(self) -> str:
        counts, level = self.data.counts, self._level
        at = self.data.columns.index(level) if level in self.data.columns else 0
        first, second = int(counts[0].sum()), int(counts[:, at].sum())
        one, two = self.data.names
        return (
            f"{one}: {whole(first)} of {counted(self.data.total, self.data.noun)} are “{level}”; {two}: {whole(second)}"
        )

    def not_shown(self) -> str:
        return "This does not show that the share is unchanged: a change may be there that these counts cannot show."


@dataclass(frozen=True)
class ShapeClaim(Claim):
    data: OneSample

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        return (
            Symbol(f"H_{{0}}: {unmarked(self.data.measure)} is normal"),
            Symbol(f"H_{{1}}: {unmarked(self.data.measure)} is not normal"),
        )

    def meaning(self) -> str:
        return f"Normal: {self.data.measure} has a normal distribution in the population."

    def sentence(self) -> str:
        return f"{self.data.measure} departs from a normal distribution"

    def observed(self) -> str:
        return f"{counted(self.data.sample.n, 'value')}"

    def not_shown(self) -> str:
        return (
            "This does not show that the distribution is normal: a departure may be there that these data cannot show."
        )


@dataclass(frozen=True)
class OrderClaim(Claim):
    data: OneSample

    def symbols(self) -> tuple[Symbol, ...]:
        from theoros.answer.parts import Symbol

        return (
            Symbol(f"H_{{0}}: the order of {unmarked(self.data.measure)} is random"),
            Symbol(f"H_{{1}}: the order of {unmarked(self.data.measure)} is not random"),
        )

    def meaning(self) -> str:
        return "Random: every order of the values was equally likely."

    def sentence(self) -> str:
        return f"the values of {self.data.measure} are not in random order"

    def observed(self) -> str:
        return f"{counted(self.data.sample.n, 'value')} in the order of the rows"

    def not_shown(self) -> str:
        return "This does not show that the order is random: there may be a pattern that runs cannot show."
