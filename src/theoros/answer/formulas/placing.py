"""A formula as a drawing: real fractions and roots, set in the fonts that ship."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from theoros.answer.drawing import Drawing, Item, Stroke, Words
from theoros.answer.formulas.formula import (
    Accent,
    Brackets,
    Formula,
    FormulaRow,
    Fraction,
    Letters,
    Node,
    Root,
    Scripts,
)
from theoros.answer.metrics import Face, text_width
from theoros.lazy_imports import np

# measures of the shipped serif, and distances, in ems of the size in force
ASCENT, DESCENT = 0.70, 0.22
X_HEIGHT, AXIS = 0.475, 0.27
SMALLER = 0.72
"""Of an index or a power; what stands in a fraction within a fraction is set between."""
LEAST = 9.0
INDENT = 1.2
"""How far the lines of a broken formula stand in."""


@dataclass(frozen=True)
class _Box:
    """Something placed: how wide it is and how far it reaches above and below the baseline."""

    width: float
    up: float
    down: float
    items: tuple[Item, ...] = ()

    def at(self, x: float, y: float = 0.0) -> Iterator[Item]:
        for item in self.items:
            if isinstance(item, Stroke):
                yield replace(item, points=item.points + np.array([x, y]))
            elif isinstance(item, Words):
                yield replace(item, x=item.x + x, y=item.y + y)


def place(formula: Formula, size: float, width: float) -> Drawing:
    """A formula at a text size, both in pixels.

    One that is wider than `width` is broken before relations and signs; a piece that still is
    wider is set smaller, down to 60 %.
    """
    for share in (1.0, 0.85, 0.72, 0.6):
        lines = list(_lines(formula.row.parts, size * share, width))
        if max((line.width for line in lines), default=0.0) <= width:
            break
    items: list[Item] = []
    y, widest = 0.0, 0.0
    for line in lines:
        y += line.up + size * 0.15
        items += line.at(0.0, y)
        y += line.down + size * 0.15
        widest = max(widest, line.width)
    return Drawing(widest, y, tuple(items))


def _lines(parts: Sequence[Node], size: float, width: float) -> Iterator[_Box]:
    """The parts in as few lines as hold them, broken where a board would break."""
    whole = _row(parts, size)
    if whole.width <= width:
        yield whole
        return
    pieces: list[list[Node]] = [[]]
    for at, part in enumerate(parts):
        breaks = isinstance(part, Letters) and part.kind in ("relation", "sign") and at > 1
        if breaks and not _signs_a_number(parts, at):
            pieces.append([])
        pieces[-1].append(part)
    line: list[Node] = []
    first = True
    for piece in pieces:
        indent = 0.0 if first else INDENT * size
        if line and _row([*line, *piece], size).width + indent > width:
            yield _indented(_row(line, size), indent)
            line, first = [], False
        line += piece
    yield _indented(_row(line, size), 0.0 if first else INDENT * size)


def _indented(box: _Box, by: float) -> _Box:
    return replace(box, width=box.width + by, items=tuple(box.at(by))) if by else box


def _row(parts: Sequence[Node], size: float, depth: int = 0) -> _Box:
    x, up, down = 0.0, size * ASCENT, size * DESCENT
    items: list[Item] = []
    wanted = 0.0
    for at, part in enumerate(parts):
        box = _box(part, size, depth)
        before, after = _space(parts, at)
        x += max(before, wanted) * size if at else 0.0
        items += box.at(x)
        x += box.width
        wanted = after
        up, down = max(up, box.up), max(down, box.down)
    return _Box(x, up, down, tuple(items))


def _space(parts: Sequence[Node], at: int) -> tuple[float, float]:
    """What is left free before and after a part, in ems."""
    part = parts[at]
    if not isinstance(part, Letters):
        last = parts[at - 1] if at else None
        if isinstance(part, Brackets):
            return (0.04, 0.04)
        joined = isinstance(last, Letters) and last.kind in ("sign", "relation", "comma", "words")
        return (0.0, 0.0) if joined else (0.12, 0.0)
    match part.kind:
        case "relation":
            return 0.36, 0.36
        case "sign":
            return (0.0, 0.02) if _signs_a_number(parts, at) else (0.28, 0.28)
        case "comma":
            return 0.0, 0.35
        case "words":
            return 0.25 if _is_factor(parts, at - 1) else 0.0, 0.25
        case _:
            return (0.14 if _is_factor(parts, at - 1) else 0.0), 0.0


def _is_factor(parts: Sequence[Node], at: int) -> bool:
    part = parts[at]
    return not isinstance(part, Letters) or part.kind in ("variable", "number")


def _signs_a_number(parts: Sequence[Node], at: int) -> bool:
    """Whether a minus belongs to the number behind it: nothing that it is taken from precedes."""
    last = parts[at - 1] if at else None
    return last is None or (isinstance(last, Letters) and last.kind in ("relation", "sign", "comma"))


def _box(node: Node, size: float, depth: int) -> _Box:
    for kind, places in _PLACERS.items():
        if isinstance(node, kind):
            return places(node, size, depth)
    raise TypeError(node)


def _letters(node: Letters, size: float, depth: int) -> _Box:
    big = node.text in ("Σ", "Π")
    face: Face = "italic" if node.kind == "variable" and not big else "serif"
    set_at = size * 1.3 if big else size
    drop = size * 0.08 if big else 0.0
    return _Box(
        text_width(node.text, set_at, face=face),
        size * ASCENT + 2 * drop,
        size * DESCENT,
        (Words(0.0, drop, node.text, set_at, face=face),),
    )


def _accent(node: Accent, size: float, depth: int) -> _Box:
    letter = _letters(Letters(node.letter, "variable"), size, depth)
    tall = node.letter in "dbhklft" or node.letter.isupper()
    top = -size * ((0.73 if tall else X_HEIGHT) + 0.12)
    left, right = letter.width * 0.18, letter.width * 1.02
    points = [(left, top), (right, top)]
    if node.mark == "hat":
        middle = (left + right) / 2 + size * 0.02
        points = [(middle - size * 0.16, top), (middle, top - size * 0.13), (middle + size * 0.16, top)]
    return replace(letter, up=-top + size * 0.14, items=(*letter.items, _stroke(points, size)))


def _scripts(node: Scripts, size: float, depth: int) -> _Box:
    base = _box(node.base, size, depth)
    small = max(LEAST, size * SMALLER)
    width, up, down = base.width, base.up, base.down
    items = list(base.items)
    gap = size * 0.04
    if node.below is not None:
        below = _row(node.below.parts, small, depth + 1)
        y = max(size * 0.2, base.down - size * 0.12)
        items += below.at(base.width + gap, y)
        width, down = max(width, base.width + gap + below.width), max(down, y + below.down * 0.8)
    if node.above is not None:
        above = _row(node.above.parts, small, depth + 1)
        y = -max(size * 0.38, base.up - size * 0.42)
        items += above.at(base.width + gap, y)
        width, up = max(width, base.width + gap + above.width), max(up, -y + above.up)
    return _Box(width, up, down, tuple(items))


def _fraction(node: Fraction, size: float, depth: int) -> _Box:
    inner = size if depth == 0 else max(LEAST, size * 0.85)
    over, under = _row(node.over.parts, inner, depth + 1), _row(node.under.parts, inner, depth + 1)
    margin = size * 0.06
    line_width = max(over.width, under.width) + size * 0.24
    width = line_width + 2 * margin
    line, gap = -size * AXIS, size * 0.14
    items = (
        *over.at((width - over.width) / 2, line - gap - over.down * 0.75),
        *under.at((width - under.width) / 2, line + gap + under.up),
        _stroke([(margin, line), (margin + line_width, line)], size),
    )
    return _Box(width, -line + gap + over.down * 0.75 + over.up, line + gap + under.up + under.down, items)


def _root(node: Root, size: float, depth: int) -> _Box:
    inside = _row(node.inside.parts, size, depth + (1 if depth else 0))
    hook, top = size * 0.55, -inside.up - size * 0.1
    bottom = inside.down * 0.9
    points = [
        (0.0, -size * 0.28),
        (size * 0.13, -size * 0.36),
        (size * 0.3, bottom),
        (hook - size * 0.06, top),
        (hook + inside.width + size * 0.08, top),
    ]
    items = (*inside.at(hook), _stroke(points, size))
    return _Box(hook + inside.width + size * 0.12, -top + size * 0.06, inside.down, items)


def _brackets(node: Brackets, size: float, depth: int) -> _Box:
    inside = _row(node.inside.parts, size, depth)
    wide = size * 0.3
    right = wide + inside.width
    if node.bars:
        up, down = inside.up, inside.down
        items = [_stroke([(x, -up), (x, down)], size) for x in (wide / 2, right + wide / 2)]
        return _Box(right + wide, up, down, (*inside.at(wide), *items))
    if inside.up + inside.down < size * 1.3:
        signs = (Words(0.0, 0.0, "(", size, face="serif"), Words(right, 0.0, ")", size, face="serif"))
        return _Box(right + wide, inside.up, inside.down, (*inside.at(wide), *signs))
    up, down = inside.up + size * 0.04, inside.down + size * 0.04
    bows = [
        _stroke(_bow(x, -up, down, bend), size)
        for x, bend in ((wide * 0.85, -wide * 0.6), (right + wide * 0.15, wide * 0.6))
    ]
    return _Box(right + wide, up, down, (*inside.at(wide), *bows))


def _bow(x: float, top: float, bottom: float, bend: float) -> list[tuple[float, float]]:
    """The curve of a large bracket: steep in the middle, turned in at both ends."""
    made = []
    for step in range(17):
        share = step / 16
        made.append((x + bend * (1 - (2 * share - 1) ** 4), top + share * (bottom - top)))
    return made


def _stroke(points: Sequence[tuple[float, float]], size: float) -> Stroke:
    return Stroke(np.array(points, dtype=float), "ink", max(1.0, size * 0.065))


_PLACERS: dict[type, Callable[..., _Box]] = {
    Letters: _letters,
    Accent: _accent,
    Scripts: _scripts,
    Fraction: _fraction,
    Root: _root,
    Brackets: _brackets,
    FormulaRow: lambda node, size, depth: _row(node.parts, size, depth),
}
