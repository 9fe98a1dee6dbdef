"""How areas and words are placed: blocks, sectors, stems and leaves, spans."""

from __future__ import annotations

import math

from theoros.answer.drawing import Block, Marks, Region, Stroke, Words
from theoros.answer.layers import Strip, line, places
from theoros.answer.metrics import text_width
from theoros.answer.picture import (
    Blocks,
    Rings,
    Said,
    Sectors,
    Shaded,
    Span,
    Spots,
    StemLines,
    role_of,
)
from theoros.heavy import np

LEAST_LABEL = 0.035
"""Shares below this have no room for words in a ring; the key names them."""


@places(Blocks)
def _blocks(layer: Blocks, strip: Strip) -> None:
    y = strip.upright
    lefts, rights = strip.x.map(layer.left), strip.x.map(layer.right)
    lows, highs = y.map(layer.low), y.map(layer.high)
    gap = 1.0 if layer.left.size <= 400 else 0.0
    for at in range(layer.left.size):
        left, right = float(lefts[at]), float(rights[at])
        top, bottom = float(highs[at]), float(lows[at])
        if top > bottom:
            top, bottom = bottom, top
        wide, tall = max(right - left - gap, 0.75), bottom - top
        role = strip.role(int(layer.codes[at]), layer.role)
        if tall > 0 and wide > 0:
            strip.items.append(Block(left, top, wide, tall, role))
        label = layer.labels[at] if layer.labels else ""
        if not label:
            continue
        size = strip.text * 0.92
        if layer.inside:
            if text_width(label, size) >= wide - 4:
                label = label.partition(" · ")[0]
            if text_width(label, size) < wide - 4 and tall > size * 1.3:
                middle = (top + bottom) / 2 + size * 0.35
                strip.items.append(Words(left + wide / 2, middle, label, size, "page", "middle"))
        else:
            strip.items.append(Words(left + wide / 2, top - 4, label, size, "mute", "middle"))


@places(Sectors)
def _sectors(layer: Sectors, strip: Strip) -> None:
    size = strip.text
    middle_x, middle_y = (strip.x.start + strip.x.end) / 2, (strip.top + strip.bottom) / 2
    room = min((strip.x.end - strip.x.start) / 2 - size * 7, (strip.bottom - strip.top) / 2 - size)
    radius = max(room, 20.0)
    begin = 0.0
    for share, code, label in zip(layer.shares, layer.codes, layer.labels, strict=True):
        end = begin + float(share)
        if share > 0:
            turn = np.linspace(begin, end, max(3, math.ceil(float(share) * 90))) * 2 * math.pi
            around = np.column_stack([np.sin(turn), -np.cos(turn)])
            inner = around[::-1] * layer.hole if layer.hole else np.zeros((1, 2))
            outline = np.vstack([around, inner]) * radius + (middle_x, middle_y)
            strip.items.append(Region(outline, strip.role(int(code), role_of(int(code)))))
            edge = np.vstack([around[:1] * layer.hole, around[:1]]) * radius + (middle_x, middle_y)
            strip.items.append(Stroke(edge, "page", 1.5))
            if share >= LEAST_LABEL:
                half = (begin + end) * math.pi
                out = radius + size * 0.7
                x, y = middle_x + math.sin(half) * out, middle_y - math.cos(half) * out
                anchor = "start" if math.sin(half) >= 0 else "end"
                strip.items.append(
                    Words(x, y + size * 0.35, label, size, "ink", anchor)  # type: ignore[arg-type]
                )
        begin = end


@places(StemLines)
def _stem_lines(layer: StemLines, strip: Strip) -> None:
    count = max(1, len(layer.lines))
    high = min((strip.bottom - strip.top) / count, strip.text * 1.5)
    size = min(strip.text * 1.05, high * 0.86)
    stems = max((text_width(stem, size) for stem, _ in layer.lines), default=0.0)
    left = strip.x.start + stems + 10
    top = strip.top
    strip.items.append(line(left, top, left, top + high * count, "mute"))
    step = text_width("0", size) + 1.5
    fits = max(1, int((strip.x.end - left - 12) / step) - 1)
    cut = False
    for at, (stem, leaves) in enumerate(layer.lines):
        y = top + high * (at + 0.75)
        strip.items.append(Words(left - 6, y, stem, size, "mute", "end"))
        shown = leaves if len(leaves) <= fits else leaves[:fits] + "…"
        cut = cut or len(leaves) > fits
        strip.items.append(Words(left + 7, y, shown, size, "data"))
    if cut:
        strip.notes.append("Some lines have more leaves than there is room for.")


@places(Rings)
def _rings(layer: Rings, strip: Strip) -> None:
    if layer.x.size:
        middle = (strip.top + strip.bottom) / 2
        xs = strip.x.map(layer.x)
        ys = np.full(xs.size, middle)
        strip.items.append(Marks(xs, ys, layer.rows, "circle", "seen", 9.0, hollow=True))


@places(Said)
def _said(layer: Said, strip: Strip) -> None:
    for value, text, anchor in layer.texts:
        at = min(max(strip.x(value), strip.x.start), strip.x.end)
        at += {"start": 7.0, "end": -7.0}.get(anchor, 0.0)
        strip.items.append(
            Words(at, strip.top + strip.text, text, strip.text, "ink", anchor)  # type: ignore[arg-type]
        )


@places(Spots)
def _spots(layer: Spots, strip: Strip) -> None:
    middle = (strip.top + strip.bottom) / 2
    for value, shape, role in layer.spots:
        spot = np.array([strip.x(value)]), np.array([middle])
        strip.items.append(Marks(*spot, None, shape, role, 9.0))


@places(Shaded)
def _shaded(layer: Shaded, strip: Strip) -> None:
    tall = min(strip.bottom - strip.top - 4, 18.0)
    middle = (strip.top + strip.bottom) / 2
    left, right = strip.x(layer.low), strip.x(layer.high)
    strip.items.append(
        Block(left, middle - tall / 2, max(right - left, 1.0), tall, layer.role, hatched=True)
    )


@places(Span)
def _span(layer: Span, strip: Strip) -> None:
    middle = (strip.top + strip.bottom) / 2
    left, right = strip.x(layer.low), strip.x(layer.high)
    strip.items.append(Block(left, middle - 3, max(right - left, 1.5), 6, layer.role))
    for at in (left, right):
        strip.items.append(line(at, middle - 7, at, middle + 7, layer.role, 1.5))
    wide = text_width(layer.label, strip.text)
    if right + 10 + wide <= strip.x.end:
        at, anchor = right + 10, "start"
    elif left - 10 - wide >= strip.x.start - 60:
        at, anchor = left - 10, "end"
    else:
        at, anchor = strip.x.end, "end"
    y = middle + strip.text * 0.35
    if anchor == "end" and at == strip.x.end:
        y = middle - strip.text * 0.8
    strip.items.append(Words(at, y, layer.label, strip.text, "ink", anchor))  # type: ignore[arg-type]
