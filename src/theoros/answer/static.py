"""Pictures that leave the program: without what can be dragged, with their caption below."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.drawing import Drawing, Item, Words
from theoros.answer.layout import lay_out
from theoros.answer.metrics import text_width
from theoros.answer.picture import Picture
from theoros.answer.wording import to_plain

CAPTION = 13.0
LINE = 1.4
"""From line to line of a caption, in heights of its text."""


def lay_out_static(picture: Picture, width: float, height: float, caption: str = "") -> Drawing:
    """The drawing of a picture for a document, `height` without the words below it.

    Below stand the caption and what the picture had to leave out or draw in another way.
    """
    frames = tuple(replace(frame, squares=(), ends=("", ""), rise=("", "")) for frame in picture.frames)
    drawing = replace(lay_out(replace(picture, frames=frames), width, height), handles=())
    said = to_plain(" ".join([caption, *drawing.notes]).strip())
    if not said:
        return drawing
    lines = wrapped(said, width - 16, CAPTION)
    words: list[Item] = [
        Words(8.0, height + CAPTION * (1 + LINE * at), text, CAPTION, "mute") for at, text in enumerate(lines)
    ]
    tall = height + CAPTION * (LINE * len(lines) + 0.4)
    return replace(drawing, height=tall, items=(*drawing.items, *words))


def wrapped(text: str, width: float, size: float) -> list[str]:
    """The text in lines no wider than `width` pixels, where its words allow it."""
    lines: list[str] = []
    for word in text.split():
        if lines and text_width(f"{lines[-1]} {word}", size) <= width:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    return lines
