"""Writes src/theoros/answer/metrics.py: letter widths of the fonts that ship, for laying out.

Run it when a font is replaced: `python scripts/make_metrics.py` (needs fonttools).
"""

from pathlib import Path

from fontTools.ttLib import TTFont

HERE = Path(__file__).resolve().parent.parent
FACES = {"sans": "SourceSans3-Regular", "serif": "SourceSerif4-Regular", "italic": "SourceSerif4-It"}
LETTERS = [*range(0x20, 0x7F), *range(0xA0, 0x180), *range(0x391, 0x3CA), *range(0x2010, 0x2027)]
LETTERS += [0x202F, 0x2212, 0x2213, 0x2260, 0x2248, 0x2264, 0x2265, 0x221E, 0x00D7]
LETTERS += [*range(0x2080, 0x208A)]


def table(name: str, file: str) -> list[str]:
    """One face: letters by their width in thousandths of the size."""
    font = TTFont(HERE / f"src/theoros/fonts/{file}.ttf")
    cmap, widths, em = font.getBestCmap(), font["hmtx"], font["head"].unitsPerEm
    by_width: dict[int, str] = {}
    for letter in LETTERS:
        if (letter in cmap and chr(letter).isprintable()) or letter in (0xA0, 0x202F):
            width = round(1000 * widths[cmap.get(letter, cmap[0x20])][0] / em)
            by_width[width] = by_width.get(width, "") + chr(letter)
    rows, row = [], ""
    for width, letters in sorted(by_width.items()):
        entry = f"{width}: {letters!a}, "
        if len(row) + len(entry) > 90:
            rows.append(row.rstrip())
            row = ""
        row += entry
    return [f'    "{name}": {{', *(f"        {row}" for row in [*rows, row.rstrip()]), "    },"]


lines = [
    '"""How wide text is set in the fonts that ship. Written by scripts/make_metrics.py."""',
    "",
    "from __future__ import annotations",
    "",
    "from typing import Literal",
    "",
    'Face = Literal["sans", "serif", "italic"]',
    "OTHER = 0.6",
    '"""Width of a letter that is not listed, in ems."""',
    "",
    "_BY_WIDTH: dict[Face, dict[int, str]] = {",
    *(line for name, file in FACES.items() for line in table(name, file)),
    "}  # fmt: skip",
    "_WIDTHS = {",
    "    face: {letter: width / 1000 for width, text in widths.items() for letter in text}",
    "    for face, widths in _BY_WIDTH.items()",
    "}",
    "",
    "",
    'def text_width(text: str, size: float, *, bold: bool = False, face: Face = "sans") -> float:',
    '    """Width in pixels of one line of text at a size in pixels; semibold is 4 % wider."""',
    "    widths = _WIDTHS[face]",
    "    ems = sum(widths.get(letter, OTHER) for letter in text)",
    "    return ems * size * (1.04 if bold else 1.0)",
    "",
]
(HERE / "src/theoros/answer/metrics.py").write_text("\n".join(lines))
