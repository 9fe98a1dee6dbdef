"""A drawing as SVG with real text, in the colours of a palette."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping

from theoros.answer.drawing import Block, Drawing, FilledOutline, Item, Marks, Stroke, Words
from theoros.answer.markup import escaped
from theoros.answer.palette import LIGHT
from theoros.answer.wording import to_plain

FAMILY = "'Source Sans 3', 'Source Sans Pro', 'Helvetica Neue', Arial, sans-serif"
SERIF = "'Source Serif 4', Georgia, serif"
_HATCH = (
    '<defs><pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" '
    'patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="6" stroke="{ink}" '
    'stroke-width="1" stroke-opacity="0.45"/></pattern></defs>'
)


def to_svg(drawing: Drawing, alt: str = "", palette: Mapping[str, str] = LIGHT) -> str:
    """A self-contained SVG document; `alt` becomes its title for screen readers."""
    size = f"{drawing.width:.0f} {drawing.height:.0f}"
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {size}" '
        f'width="{drawing.width:.0f}" height="{drawing.height:.0f}" role="img" '
        f'font-family="{FAMILY}">',
        f"<title>{escaped(to_plain(alt))}</title>",
        _HATCH.format(ink=palette["ink"]),
        f'<rect width="100%" height="100%" fill="{palette["page"]}"/>',
    ]
    for item in drawing.items:
        parts.extend(_element(item, palette))
    for handle in drawing.handles:
        if handle.shape == "square":
            parts.append(
                f'<rect x="{handle.x - 4.5:.1f}" y="{handle.y - 4.5:.1f}" width="9" height="9" '
                f'fill="{palette[handle.role]}"/>'
            )
    return "\n".join([*parts, "</svg>"])


def outline(shape: str, size: float) -> list[tuple[float, float]]:
    """Corners of a mark around (0, 0), `size` pixels across; none for a circle.

    Shapes are drawn with about the same area, so that none looks like more.
    """
    r = size / 2
    if shape == "square":
        s = r * 0.88
        return [(-s, -s), (s, -s), (s, s), (-s, s)]
    if shape in ("triangle", "down"):
        flip = 1 if shape == "triangle" else -1
        s = r * 1.12
        return [(0, -s * flip), (s, s * 0.78 * flip), (-s, s * 0.78 * flip)]
    if shape == "diamond":
        s = r * 1.2
        return [(0, -s), (s, 0), (0, s), (-s, 0)]
    if shape == "cross":
        a, b = r * 1.05, r * 0.36
        return [
            (-b, -a),
            (b, -a),
            (b, -b),
            (a, -b),
            (a, b),
            (b, b),
            (b, a),
            (-b, a),
            (-b, b),
            (-a, b),
            (-a, -b),
            (-b, -b),
        ]
    if shape == "star":
        made = []
        for k in range(10):
            reach = r * (1.25 if k % 2 == 0 else 0.55)
            angle = math.pi * k / 5 - math.pi / 2
            made.append((reach * math.cos(angle), reach * math.sin(angle)))
        return made
    if shape == "bar":
        return [(-r * 0.45, -r * 1.1), (r * 0.45, -r * 1.1), (r * 0.45, r * 1.1), (-r * 0.45, r * 1.1)]
    return []


def _element(item: Item, palette: Mapping[str, str]) -> Iterator[str]:
    if isinstance(item, Stroke):
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in item.points)
        dash = ' stroke-dasharray="4 4"' if item.dashed else ""
        yield (
            f'<polyline points="{points}" fill="none" stroke="{palette[item.role]}" stroke-width="{item.width}"{dash}/>'
        )
    elif isinstance(item, Block):
        where = f'x="{item.x:.1f}" y="{item.y:.1f}" width="{item.width:.1f}" height="{item.height:.1f}"'
        fill = palette[item.fill] if item.fill else "none"
        stroke = f' stroke="{palette[item.stroke]}" stroke-width="{item.line}"' if item.stroke else ""
        fade = f' fill-opacity="{item.opacity:.2f}"' if item.opacity < 1 else ""
        yield f'<rect {where} fill="{fill}"{stroke}{fade}/>'
        if item.hatched:
            yield f'<rect {where} fill="url(#hatch)"/>'
    elif isinstance(item, FilledOutline):
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in item.points)
        fill = f'fill="{palette[item.fill]}" fill-opacity="{item.opacity}"'
        yield f'<polygon points="{points}" {fill}/>'
        if item.hatched:
            yield f'<polygon points="{points}" fill="url(#hatch)"/>'
    elif isinstance(item, Marks):
        yield from _marks(item, palette)
    elif isinstance(item, Words):
        weight = ' font-weight="600"' if item.bold else ""
        if item.face != "sans":
            weight += f' font-family="{SERIF}"'
            weight += ' font-style="italic"' if item.face == "italic" else ""
        yield (
            f'<text x="{item.x:.1f}" y="{item.y:.1f}" font-size="{item.size:g}" '
            f'fill="{palette[item.role]}" text-anchor="{item.anchor}"{weight}>'
            f"{escaped(item.text)}</text>"
        )


def _marks(marks: Marks, palette: Mapping[str, str]) -> Iterator[str]:
    colour = palette[marks.role]
    style = f'fill="none" stroke="{colour}" stroke-width="2"' if marks.hollow else f'fill="{colour}"'
    corners = outline(marks.shape, marks.size)
    yield f"<g {style}>"
    for x, y in zip(marks.x, marks.y, strict=True):
        if corners:
            points = " ".join(f"{x + dx:.1f},{y + dy:.1f}" for dx, dy in corners)
            yield f'<polygon points="{points}"/>'
        else:
            radius = marks.size / 2 - (1 if marks.hollow else 0)
            yield f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}"/>'
    yield "</g>"
