"""What the tests share: the demo study, small tables, and hypothesis settings."""

from __future__ import annotations

import os

import polars as pl
import pytest
from hypothesis import HealthCheck, settings

from theoros.answer.parts import Answer
from theoros.study.entries import Study
from theoros.study.file import demo_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

settings.register_profile(
    "theoros",
    deadline=None,
    max_examples=60,
    suppress_health_check=[HealthCheck.too_slow],
    # a submission is judged by the same examples each time; at a desk, new ones are tried
    derandomize=bool(os.environ.get("CI")),
)
settings.load_profile("theoros")


@pytest.fixture(scope="session")
def demo() -> Study:
    return demo_study()


def make_table(name: str = "t", noun: str = "row", **columns: list) -> Table:
    """A table from lists: numbers become number columns, text categories."""
    made, series = [], []
    for key, values in columns.items():
        title = key.replace("_", " ")
        text = any(isinstance(value, str) for value in values)
        kind = Kind.CATEGORY if text else Kind.NUMBER
        made.append(Column(title, kind))
        series.append(pl.Series(title, values, dtype=kind.dtype, strict=False))
    return Table(name, tuple(made), pl.DataFrame(series), noun)


def layers(found: Answer, kind: type) -> list:
    """The layers of a kind in the picture of an answer, in the order they are drawn."""
    assert found.picture is not None
    return [
        layer
        for frame in found.picture.frames
        for panel in frame.panels
        for lane in panel.lanes
        for layer in lane.layers
        if isinstance(layer, kind)
    ]
