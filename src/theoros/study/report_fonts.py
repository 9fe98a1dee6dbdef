"""The fonts of an exported report, within it: only the letters that it has.

Labels are laid out by the widths of these fonts; with another, words would be cut.
"""

from __future__ import annotations

import base64
import io
import re

from theoros.fonts import FONTS

FACES = (
    ("Source Sans 3", "normal", 400, "SourceSans3-Regular.ttf"),
    ("Source Sans 3", "normal", 600, "SourceSans3-Semibold.ttf"),
    ("Source Serif 4", "normal", 400, "SourceSerif4-Regular.ttf"),
    ("Source Serif 4", "normal", 600, "SourceSerif4-Semibold.ttf"),
    ("Source Serif 4", "italic", 400, "SourceSerif4-It.ttf"),
)
"""Family, style, weight and file of each face that a report uses."""
ALWAYS = "".join(map(chr, range(32, 127))) + "–—“”‘’−×·…✓✕?₀₁₂₃"


def font_faces(page: str) -> str:
    """Rules for a style sheet that bring the faces, cut to the letters of the page."""
    letters = set(ALWAYS) | set(re.sub(r"<[^>]*>", "", page))
    return (
        "\n".join(
            f"@font-face {{ font-family: '{family}'; font-style: {style}; font-weight: {weight}; "
            f"src: url(data:font/woff;base64,{_subset(file, letters)}) format('woff'); }}"
            for family, style, weight, file in FACES
        )
        + "\n"
    )


def _subset(file: str, letters: set[str]) -> str:
    """A font with the glyphs of these letters alone, as WOFF in base64."""
    from fontTools import subset

    options = subset.Options()
    options.flavor = "woff"
    options.layout_features = ["kern", "mark", "mkmk", "liga", "tnum"]
    options.name_IDs = [0, 1, 2, 13, 14]  # with the licence
    options.notdef_outline = True
    options.hinting = False
    font = subset.load_font(str(FONTS / file), options)
    maker = subset.Subsetter(options)
    maker.populate(unicodes=[ord(letter) for letter in letters])
    maker.subset(font)
    made = io.BytesIO()
    subset.save_font(font, made, options)
    font.close()
    return base64.b64encode(made.getvalue()).decode("ascii")
