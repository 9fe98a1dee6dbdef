"""Words in a lane: stems with their leaves, and what is said at a value."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.drawing import Words
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.answer.metrics import text_width


@dataclass(frozen=True)
class StemLines(Layer):
    """A stem and leaf display: stems and leaves, the lowest first."""

    lines: tuple[tuple[str, str], ...]

    def place(self, strip: Strip) -> None:
        count = max(1, len(self.lines))
        high = min((strip.bottom - strip.top) / count, strip.text * 1.5)
        size = min(strip.text * 1.05, high * 0.86)
        stems = max((text_width(stem, size) for stem, _ in self.lines), default=0.0)
        left = strip.x.start + stems + 10
        top = strip.top
        strip.items.append(line(left, top, left, top + high * count, "mute"))
        step = text_width("0", size) + 1.5
        fits = max(1, int((strip.x.end - left - 12) / step) - 1)
        cut = False
        for at, (stem, leaves) in enumerate(self.lines):
            y = top + high * (at + 0.75)
            strip.items.append(Words(left - 6, y, stem, size, "mute", "end"))
            shown = leaves if len(leaves) <= fits else leaves[:fits] + "…"
            cut = cut or len(leaves) > fits
            strip.items.append(Words(left + 7, y, shown, size, "data"))
        if cut:
            strip.notes.append("Some lines have more leaves than there is room for.")


@dataclass(frozen=True)
class WrittenWords(Layer):
    """Words in the upper part of a lane, at values of x."""

    texts: tuple[tuple[float, str, str], ...]
    """Value, text, and the anchor: start, middle or end."""

    speaks_above: ClassVar[bool] = True

    def place(self, strip: Strip) -> None:
        for value, text, anchor in self.texts:
            at = min(max(strip.x(value), strip.x.start), strip.x.end)
            at += {"start": 7.0, "end": -7.0}.get(anchor, 0.0)
            strip.items.append(
                Words(at, strip.top + strip.text, text, strip.text, "ink", anchor)  # type: ignore[arg-type]
            )
