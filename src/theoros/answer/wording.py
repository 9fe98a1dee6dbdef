"""How numbers and words are written: rounding, plurals, lists, and marked-up symbols.

Text may carry two marks that every reader of it (window, report, plain text) knows:
`_{...}` for a subscript and `^{...}` for a superscript.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from decimal import ROUND_HALF_UP, Decimal

from theoros.answer.digits import digits
from theoros.answer.markup import escaped
from theoros.answer.typed_number import TypedNumber

NARROW_SPACE = "\u202f"
MINUS = "−"
NONE = "–"
RAISED = str.maketrans("0123456789−", "⁰¹²³⁴⁵⁶⁷⁸⁹⁻")
"""Figures as they stand in an exponent, without a mark that some reader would not know."""
"""Stands where a figure cannot be worked out."""


def number(value: float, decimals: int = 2) -> str:
    """A number with so many decimals, a true minus sign and spaced thousands.

    Very large and very small numbers, which decimals cannot show, are written as powers.
    """
    if math.isnan(value):
        return NONE
    if math.isinf(value):
        return "∞" if value > 0 else f"{MINUS}∞"
    size = abs(value)
    if size >= 1e9 or (0 < size < 0.5 * 10.0**-decimals and size < 1e-4):
        return power_of_ten(value)
    text = rounded(size, decimals)
    sign = MINUS if value < 0 and float(text.replace(",", "")) != 0 else ""
    head, _, tail = text.partition(".")
    if size < 10_000:  # four digits stand without a space
        head = head.replace(",", "")
    return sign + head.replace(",", NARROW_SPACE) + ("." + tail if tail else "")


def located(value: float, decimals: int, spread: float) -> str:
    """A place among values that spread so much: in full where a power of ten would hide what differs.

    1 000 000 001.5 among values from 1 000 000 001 to 1 000 000 003; 4.50 × 10¹¹ among others as large.
    """
    size = abs(value)
    if not (1e9 <= size < 1e15 and spread < 1e-3 * size):
        return number(value, decimals)
    head, _, tail = rounded(size, decimals).partition(".")
    return ("−" if value < 0 else "") + head.replace(",", NARROW_SPACE) + (f".{tail}" if tail else "")


def trimmed(value: float, decimals: int = 4) -> str:
    """The same without the noughts at its end: what is worked out beside what was typed."""
    text = number(value, decimals)
    return text.rstrip("0").rstrip(".") if "." in text and "×" not in text else text


def rounded(size: float, decimals: int) -> str:
    """A number of 0 or more with so many decimals and commas between thousands.

    A half goes away from zero, as is taught: 3.25 is 3.3 with one decimal, whatever binary made
    of it. What arithmetic leaves at the sixteenth figure is taken off first.
    """
    shown = decimals + (math.floor(math.log10(size)) + 1 if size > 0 else 0)
    text = f"{size:.15g}" if shown < 15 else repr(float(size))
    return f"{Decimal(text).quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP):,f}"


def decimals_needed(value: float, most: int) -> int:
    """The fewest decimals, up to `most`, that show the value exactly."""
    if not math.isfinite(value):
        return 0
    if isinstance(value, TypedNumber) and (typed := re.fullmatch(r"−?\d+\.(\d+)", value.text)):
        return min(most, len(typed[1]))
    for places in range(most):
        if abs(round(value, places) - value) <= 1e-9 * max(1.0, abs(value)):
            return places
    return most


def telling_apart(values: Sequence[float], decimals: int, most: int = 8) -> list[str]:
    """Numbers with so many decimals, or with as many more as it takes to keep them apart.

    What differs is never written the same: 2.98 and 3.02 with one decimal are 2.98 and 3.02.
    """
    for places in range(decimals, most + 1):
        made = [number(value, places) for value in values]
        if len(set(made)) == len(set(values)):
            return made
    return [exact(value) for value in values]


def between_data(value: float, decimals: int, extra: int = 1) -> str:
    """A figure that lies on the data or midway between them, such as a median or a fence.

    It has the decimals of the data, or up to `extra` more where it needs them: the median of 4
    and 5 is 4.5, never 4.
    """
    most = min(decimals + extra, 8)
    return number(value, max(decimals, decimals_needed(value, most)))


def power_of_ten(value: float) -> str:
    """Three significant figures times a power of ten."""
    mantissa, exponent = f"{value:.2e}".split("e")
    sign = MINUS if mantissa.startswith("-") else ""
    power = f"{MINUS if int(exponent) < 0 else ''}{abs(int(exponent))}".translate(RAISED)
    return f"{sign}{mantissa.lstrip('-')} × 10{power}"


def significant(value: float, figures: int = 3) -> str:
    """A number to so many significant figures, without an exponent where that is readable."""
    if value == 0 or not math.isfinite(value):
        return number(value, 0)
    exponent = math.floor(math.log10(abs(float(f"{value:.{figures - 1}e}"))))
    if figures - 1 - exponent > 10:  # so small that decimals would leave it one or two figures
        return power_of_ten(value)
    return number(value, max(0, figures - 1 - exponent))


def put_in(value: float, decimals: int) -> str:
    """A figure of data with so many decimals, put into a formula: two decimals more than the data.

    That, or four significant figures where they say more, gives the result again that stands
    behind the equals sign; zeros that end it are left out.
    """
    if isinstance(value, TypedNumber):
        return value.text
    if value == 0 or not math.isfinite(value):
        return number(value, 0)
    needed = 3 - math.floor(math.log10(abs(value)))
    text = number(value, max(0, min(10, max(decimals + 2, needed))))
    return text.rstrip("0").rstrip(".") if "." in text and "×" not in text else text


def bracketed(text: str) -> str:
    """A number behind a sign or below an exponent: in brackets where it would be misread."""
    return f"({text})" if text.startswith(MINUS) or "×" in text else text


def squared(text: str) -> str:
    """ "2.5^{2}", "(4.53 × 10⁻¹³)^{2}"."""
    return f"{bracketed(text)}^{{2}}"


def taken_off(value: float) -> str:
    """What is subtracted at the end of a formula: " − 2", " + 2" for −2, nothing for 0."""
    if value == 0:
        return ""
    return f" {MINUS if value > 0 else '+'} {exact(abs(value))}"


def exact(value: float) -> str:
    """A number as it was typed: no more decimals than it has."""
    if isinstance(value, TypedNumber):
        return value.text
    if float(value).is_integer() and abs(value) < 1e15:
        return number(value, 0)
    text = repr(abs(float(value)))
    if "e" in text:
        return power_of_ten(value)
    return number(value, len(text.partition(".")[2]))


def places_of_ends(low: float, high: float, least: int = 0, most: int = 10) -> int:
    """Decimals that show half the width of an interval with two figures, so that its ends differ.

    Equal ends have `most` decimals; `least` are given in any case.
    """
    half = abs(high - low) / 2
    if not (math.isfinite(half) and half > 0):
        return most
    return max(least, min(most, 1 - math.floor(math.log10(half))))


def r_text(r: float) -> str:
    """A correlation with the decimals in force, or with more where it would read as the ±1 that it is not."""
    places = digits().statistic
    while places < 6 and abs(r) < 1 - 1e-12 and float(rounded(abs(r), places)) == 1:
        places += 1
    return number(r, places)


def statistic(value: float, finer: int = 0) -> str:
    """A statistic such as t, z or r with the decimals in force; a working has one more."""
    return number(value, digits().statistic + finer)


def p_value(p: float, apart_from: float = math.nan) -> str:
    """A p-value with the decimals in force, four by rule, or that it is beyond what they show.

    So "< 0.0001", and "> 0.9999" for what would read as a 1 that it is not.

    It has more where it would be written like `apart_from`, which it is not.
    """
    places = digits().p
    if p < 0.5 * 10.0**-places:
        return f"< {rounded(10.0**-places, places)}"
    while places < 10 and abs(p - apart_from) > 1e-12 and rounded(p, places) == rounded(apart_from, places):
        places += 1
    text = rounded(p, places)
    if p < 1 - 1e-12 and float(text) == 1:
        return f"> {rounded(1 - 10.0**-places, places)}"
    return text


def p_equals(p: float, symbol: str = "p", apart_from: float = math.nan) -> str:
    """ "p = 0.0312", "p < 0.0001"."""
    text = p_value(p, apart_from)
    joined = f"{symbol} {text}" if text.startswith(("<", ">")) else f"{symbol} = {text}"
    return joined.replace(" ", "\u00a0")


def percent(part: float, whole: float) -> str:
    """A whole percentage; "under 1 %" and "over 99 %" where 0 and 100 would be untrue."""
    if whole == 0:
        return NONE
    share = 100 * part / whole
    if 0 < share < 0.5:
        return "under 1\u00a0%"
    if 99.5 <= share < 100:
        return "over 99\u00a0%"
    return f"{rounded(share, 0)}\u00a0%"


def percent_text(share: float, most: int = 10) -> str:
    """A share as a percentage with no more decimals than it has: "95 %", "97.5 %", "99.95 %".

    For levels and shares that were chosen. What is worked out has `most` decimals at the most; a
    share of cases is rounded by `percent`.
    """
    return f"{exact(round(100 * float(share), most))}\u00a0%"


def whole(n: int) -> str:
    """A count with narrow spaces between thousands, from five digits on."""
    text = f"{n:,}".replace(",", NARROW_SPACE) if abs(n) >= 10_000 else str(n)
    return text.replace("-", "−")


def listed(parts: Sequence[str], joiner: str = "and") -> str:
    """ "a", "a and b", "a, b and c"."""
    if len(parts) < 2:
        return "".join(parts)
    return f"{', '.join(parts[:-1])} {joiner} {parts[-1]}"


def listed_briefly(parts: Sequence[str], most: int = 6, count: int | None = None) -> str:
    """A list that says how many more there are past `most`.

    `count` is how many there are in all, where only the first of them are given.
    """
    count = len(parts) if count is None else count
    if count <= most:
        return listed(parts)
    return f"{', '.join(parts[:most])} and {whole(count - most)} more"


def shortened(text: str, most: int = 40) -> str:
    """The text on one line, cut with an ellipsis past `most` letters, and without marks."""
    flat = " ".join(literal(text).split())
    return flat if len(flat) <= most else flat[: most - 1].rstrip() + "…"


def sentence_case(text: str) -> str:
    """The text with its first letter large, the rest as it is.

    Symbols keep their letters: a sentence may begin with "x" or "pH".
    """
    first = re.split(r"[^\w]", text, maxsplit=1)[0]
    if (len(first) == 1 and first != "a") or any(letter.isupper() for letter in first[1:]):
        return text
    return text[:1].upper() + text[1:]


def data_decimals(decimals: int, n: int) -> int:
    """Decimals for a mean or spread of data that carry `decimals`: one more, to 6."""
    return min(6, decimals + 1) if n > 1 else decimals


def difference_unit(unit: str) -> str:
    """The unit of a difference: between percentages it is percentage points."""
    return "percentage points" if unit == "%" else unit


def with_unit(text: str, unit: str) -> str:
    """A figure with its unit behind a space that does not break; as it is for no unit.

    One of a unit that is spelt out as a plural has its singular: "1 point".
    """
    if not unit:
        return text
    one = text.lstrip(MINUS) == "1" and re.search(r"[^\W\d_]{3,}[^s\W]s$", unit)
    return f"{text}\u00a0{unit[:-1] if one else unit}"


_MARK = re.compile(r"([_^])\{([^{}]*)\}")


def to_html(text: str) -> str:
    """Marked-up text as HTML, all else escaped."""
    plain = escaped(text, quote=False)
    return _MARK.sub(lambda m: f"<{_tag(m[1])}>{m[2]}</{_tag(m[1])}>", plain)


def to_plain(text: str) -> str:
    """Text without its marks: μ_{slow} becomes "μ slow", 10^{3} "10^3"; spaces may break again."""
    text = text.replace("\u00a0", " ")
    spaced = re.sub(r"_\{([^{}]{2,})\}", r" \1", text)
    return _MARK.sub(lambda m: m[2].translate(_SMALL) if m[1] == "_" else f"^{m[2]}", spaced)


_SMALL = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")


def _tag(mark: str) -> str:
    return "sub" if mark == "_" else "sup"


def literal(text: str) -> str:
    """A name from data that stays as it is where marked-up text is read: no mark begins in it."""
    return text.replace("_{", "_\u2060{").replace("^{", "^\u2060{")


def unmarked(text: str) -> str:
    """Names from data made safe to stand within a mark: braces would end it early."""
    return text.replace("{", "(").replace("}", ")")
