"""Stretches of an axis marked by bars above each other, with a letter at each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.axis import role_of
from theoros.answer.drawing import Words
from theoros.answer.layers.layer import Layer, Strip, line


@dataclass(frozen=True)
class Stretches(Layer):
    """In the upper part of a lane, a line for each entry: a letter and its stretches."""

    entries: tuple[tuple[str, tuple[tuple[float, float], ...]], ...]

    speaks_above: ClassVar[bool] = True

    def place(self, strip: Strip) -> None:
        for at, (letter, parts) in enumerate(self.entries):
            y = strip.top + strip.text * (0.8 + 1.3 * at)
            first = True
            for low, high in parts:
                left = max(strip.x(low), strip.x.start)
                right = min(strip.x(high), strip.x.end)
                if right < left:
                    continue
                right = max(right, left + 2)
                strip.items.append(line(left, y, right, y, role_of(at), 3.0))
                for end, inner in ((left, strip.x(low)), (right, strip.x(high))):
                    if abs(end - inner) < 3:  # an end that is there, and not cut by the axis
                        strip.items.append(line(end, y - 4, end, y + 4, role_of(at), 2.0))
                if first:
                    room = left - strip.x.start > strip.text
                    x = left - 5 if room else right + 5
                    anchor = "end" if room else "start"
                    strip.items.append(
                        Words(x, y + strip.text * 0.35, letter, strip.text, "ink", anchor)  # type: ignore[arg-type]
                    )
                    first = False
