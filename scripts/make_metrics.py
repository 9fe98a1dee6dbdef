"""Writes src/theoros/answer/metrics.py: letter widths of the fonts that ship, for laying out.

Run it when a font is replaced: `python scripts/make_metrics.py` (needs fonttools).
"""

from pathlib import Path

from fontTools.ttLib import TTFont

HERE = Path(__file__).resolve().parent.parent
FONT = HERE / "src/theoros/fonts/SourceSans3-Regular.ttf"
LETTERS = [*range(0x20, 0x7F), *range(0xA0, 0x180), *range(0x391, 0x3CA), *range(0x2010, 0x2027)]
LETTERS += [0x202F, 0x2212, 0x2260, 0x2264, 0x2265, 0x221E, 0x00D7, *range(0x2080, 0x208A)]

font = TTFont(FONT)
cmap, widths, em = font.getBestCmap(), font["hmtx"], font["head"].unitsPerEm
by_width: dict[int, str] = {}
for letter in LETTERS:
    if (letter in cmap and chr(letter).isprintable()) or letter in (0xA0, 0x202F):
        width = round(1000 * widths[cmap.get(letter, cmap[0x20])][0] / em)
        by_width[width] = by_width.get(width, "") + chr(letter)

lines = [
    '"""How wide text is set in the fonts that ship. Written by scripts/make_metrics.py."""',
    "",
    "from __future__ import annotations",
    "",
    "OTHER = 0.6",
    '"""Width of a letter that is not listed, in ems."""',
    "",
    "_BY_WIDTH = {",
    *(f"    {width}: {letters!a}," for width, letters in sorted(by_width.items())),
    "}",
    "_WIDTHS = {letter: width / 1000 for width, text in _BY_WIDTH.items() for letter in text}",
    "",
    "",
    "def text_width(text: str, size: float, *, bold: bool = False) -> float:",
    '    """Width in pixels of one line of text at a size in pixels; semibold is 4 % wider."""',
    "    ems = sum(_WIDTHS.get(letter, OTHER) for letter in text)",
    "    return ems * size * (1.04 if bold else 1.0)",
    "",
]
(HERE / "src/theoros/answer/metrics.py").write_text("\n".join(lines))
