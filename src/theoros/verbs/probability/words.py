"""How probabilities are said: to so many decimals, in so many repetitions, part by part."""

from __future__ import annotations

import math

from theoros.answer.parts import Link
from theoros.answer.wording import bracketed, exact, number, p_value, rounded, significant, whole
from theoros.verbs.core.slots import next_seed
from theoros.verbs.probability.data import ChanceQuestion

LETTERS = "abcdefghijklmnopqrstuvwxyz"
UNUSUAL = 0.05
"""What happens less often is called unusual."""


def chance_text(p: float) -> str:
    """A probability as p-values are written, or to three figures where those would be 0 or 1."""
    if math.isnan(p):
        return "–"
    if not 0 < p < 1:
        return number(p, 0)
    text = p_value(p)
    if text.startswith("<"):
        return significant(p, 3)
    return f"1 − {significant(1 - p, 3)}" if text.startswith(">") else text


def chance_put_in(p: float, figures: int = 4) -> str:
    """A probability within a sum, a difference or a fraction, with so many figures, and brackets around "1 − …"."""
    if not 0 < p < 1:
        return chance_text(p)
    text = chance_text(p)
    if text.startswith("1 − "):
        return f"({text})"
    if p < 1e-7:
        return bracketed(significant(p, figures))
    return rounded(p, max(4, figures - 1 - math.floor(math.log10(p))))


def short_chance(p: float) -> str:
    """The same without zeros at its end, as on a branch or a bar."""
    text = chance_text(p)
    return text.rstrip("0").rstrip(".") if "." in text and "×" not in text else text


def about(p: float, per: int) -> str:
    """How many of so many: "766", or "fewer than 1" where that is all that can be said."""
    if math.isnan(p):
        return "–"
    count = p * per
    if 0 < count < 0.5:
        return "fewer than 1"
    rounded = math.floor(count + 0.5 + 1e-9)  # halves go up, as in textbooks
    if rounded == per and p < 1:
        return "nearly all"
    return whole(rounded)


def roughly(p: float, per: int) -> str:
    """ "about 766", "nearly all"."""
    if p == 1:
        return f"all {whole(per)}"
    count = about(p, per)
    return f"about {count}" if count[0].isdigit() else count


def why_it_fits(s: ChanceQuestion) -> tuple[str, ...]:
    """The student's own reason, as a sentence."""
    reason = s.reason.strip()
    if not reason:
        return ()
    ending = "" if reason.endswith((".", "!", "?", "…")) else "."
    return (f"Why it fits: {reason}{ending}",)


def check_words(s: ChanceQuestion, p: float, some: int, of: int, each: str) -> str:
    """What the draws say of the chosen part."""
    if of == 0:
        return "The condition came true in none of the draws."
    drawn = f"{whole(of)} simulated {each} (seed {exact(s.seed)})"
    came = "it came true in none" if some == 0 else f"it came true in {whole(some)}"
    text = f"In {drawn}, {came}: a share of {rounded(some / of, 4)}"
    spread = 1.96 * math.sqrt(max(p * (1 - p), 0.0) / of)
    if math.isnan(p) or not 0 < p < 1:
        return f"{text}."
    places = max(2, min(6, 1 - math.floor(math.log10(spread)))) if spread > 0 else 4
    return (
        f"{text}, beside the exact {number(p, 4)}. About 95 % of such simulations are within "
        f"{number(spread, places)} of the exact value."
    )


def draw_again(s: ChanceQuestion) -> Link:
    """The same with other draws."""
    label = f"Draw another {whole(s.replicates)}"
    return Link(label, sets=("seed", next_seed(s.seed)))
