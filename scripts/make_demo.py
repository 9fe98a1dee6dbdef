"""Makes the demo study's tables: the tea gardens of Orrin Ridge, a made-up cooperative.

`python scripts/make_demo.py` writes src/theoros/demo/. Every number comes from one seed. The
tables carry effects that the verbs are there to find, and some that are not there.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import polars as pl

from theoros.study.entries import Entry, EntryBlock, Study, TextBlock
from theoros.study.package import write_parts
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import make

HERE = Path(__file__).resolve().parent.parent / "src/theoros/demo"
NUMBER, CATEGORY, ORDERED, DATE = Kind.NUMBER, Kind.CATEGORY, Kind.ORDERED, Kind.DATE


def table(name: str, noun: str, columns: list[Column], values: list[object]) -> Table:
    frame = pl.DataFrame(
        [
            pl.Series(c.name, v, dtype=c.kind.dtype, nan_to_null=True, strict=False)
            for c, v in zip(columns, values, strict=True)
        ]
    )
    return Table(name, tuple(columns), frame, noun)


def bushes(rng: np.random.Generator) -> Table:
    n = 180
    cultivar = rng.choice(["Amber", "Jade", "Mist"], n, p=[0.3, 0.4, 0.3])
    netting = rng.permutation(np.repeat(["netted", "open"], [92, 88]))
    elevation = np.round(rng.normal(425, 65, n))
    long = {"Amber": 56.0, "Jade": 72.0, "Mist": 63.0}
    length = np.round(np.array([long[c] for c in cultivar]) + rng.normal(0, 8.5, n), 1)
    mass = np.round(-7.9 + 0.42 * length + rng.normal(0, 2.6, n), 1)
    pluck = np.round(np.where(netting == "open", 51.5, 45.0) + 0.35 * (mass - 19) + rng.normal(0, 5.6, n))
    pluck[[33, 118]] = [76.0, 19.0]  # two outliers that are real plucks
    score = pluck + rng.normal(0, 7, n)
    cut = np.quantile(score, [0.3, 0.7])
    grade = np.array(["coarse", "fair", "fine"])[np.searchsorted(cut, score)]
    mass[[6, 91]] = np.nan
    pluck[[57]] = np.nan
    return table(
        "bushes",
        "bush",
        [
            Column("cultivar", CATEGORY, meaning="variety planted"),
            Column("netting", CATEGORY, meaning="under shade netting or open to the sun"),
            Column("elevation", NUMBER, "m", "height above the sea"),
            Column("leaf length", NUMBER, "mm", "length of the third leaf"),
            Column("leaf mass", NUMBER, "g", "fresh mass of ten third leaves"),
            Column("pluck mass", NUMBER, "g", "mass of one morning's pluck"),
            Column("grade", ORDERED, "", "grade of the pluck", ("fine", "fair", "coarse")),
        ],
        [cultivar, netting, elevation, length, mass, pluck, grade],
    )


def trays(rng: np.random.Generator) -> Table:
    slow = np.round(35.6 + rng.normal(0, 1.9, 12), 1)
    slow[10] = 61.5  # left beside the stove overnight
    quick = np.round(32.6 + rng.normal(0, 1.3, 10), 1)
    withering = ["slow"] * 12 + ["quick"] * 10
    order = rng.permutation(22)
    loss = np.concatenate([slow, quick])
    return table(
        "trays",
        "tray",
        [
            Column("withering", CATEGORY, meaning="slow on racks or quick with warm air"),
            Column("moisture loss", NUMBER, "%", "share of the fresh mass driven off"),
        ],
        [np.array(withering)[order], loss[order]],
    )


def tasters(rng: np.random.Generator) -> Table:
    skill = rng.normal(61, 9, 24)
    before = np.round(skill + rng.normal(0, 4, 24))
    after = np.round(skill + 4.2 + rng.normal(0, 4, 24))
    return table(
        "tasters",
        "taster",
        [
            Column("taster", Kind.TEXT, meaning="initials"),
            Column("score before", NUMBER, "points", "blind tasting before training, of 100"),
            Column("score after", NUMBER, "points", "blind tasting after training, of 100"),
        ],
        [[f"{chr(65 + k)}. {chr(90 - k)}." for k in range(24)], before, after],
    )


def orders(rng: np.random.Generator) -> Table:
    blends, rooms = ["Dawn", "Ridge", "Smoke", "Garden"], ["veranda", "library", "terrace"]
    shares = np.array([[0.12, 0.06, 0.10], [0.08, 0.11, 0.07], [0.03, 0.12, 0.03], [0.12, 0.05, 0.11]])
    counts = rng.multinomial(412, (shares / shares.sum()).ravel())
    return table(
        "orders",
        "kind of order",
        [
            Column("blend", CATEGORY, meaning="tea ordered"),
            Column("room", CATEGORY, meaning="room of the tea house"),
            Column("how many", NUMBER, "", "orders in one week"),
        ],
        [np.repeat(blends, 3), np.tile(rooms, 4), counts.astype(float)],
    )


def visits(rng: np.random.Generator) -> Table:
    months = pl.date_range(pl.date(2017, 1, 1), pl.date(2025, 12, 1), "1mo", eager=True)
    t = np.arange(108)
    season = 210 * np.sin(2 * np.pi * (t - 3) / 12) + 60 * np.cos(4 * np.pi * t / 12)
    visitors = np.round(620 + 3.1 * t + season + rng.normal(0, 38, 108))
    return table(
        "visits",
        "month",
        [
            Column("month", DATE, meaning="first day of the month"),
            Column("visitors", NUMBER, "", "guests of the tea house"),
        ],
        [months, visitors],
    )


def ovens(rng: np.random.Generator) -> Table:
    temperature = np.repeat(np.arange(80, 141, 10.0), 4)
    left = 2.4 + 17.5 * np.exp(-0.042 * (temperature - 80)) + rng.normal(0, 0.55, 28)
    oven = np.tile(["north", "south"], 14)
    order = rng.permutation(28)
    return table(
        "ovens",
        "firing",
        [
            Column("temperature", NUMBER, "°C", "firing temperature, set by design"),
            Column("moisture left", NUMBER, "%", "moisture after firing"),
            Column("oven", CATEGORY, meaning="which oven was used"),
        ],
        [temperature[order], np.round(left[order], 1), oven[order]],
    )


HOW_GOT = ("random sample", "random assignment", "random sample", "observed", "whole population", "random assignment")


def study() -> Study:
    rng = np.random.default_rng(4127)
    made = [f(rng) for f in (bushes, trays, tasters, orders, visits, ovens)]
    tables = tuple(
        table.with_(sampling=got, counts="how many" if table.name == "orders" else "")
        for table, got in zip(made, HOW_GOT, strict=True)
    )
    entries = (
        Entry(
            "e1",
            make("test", table="trays", centre="median", what="moisture loss", by="withering",
                 first="slow", second="quick", claim="greater", alpha=0.01, method="rank sum",
                 seed=4127),
            "Does slow withering lose more?",
            "Worksheet 6, part b. The shed master holds that slow withering drives off more water "
            "than quick withering does. Is she right? Use a significance level of 1 %.",
        ),
        Entry(
            "e2",
            make("plot", table="bushes", what="pluck mass", by="netting", colour="grade", bins=4),
            "Pluck mass under each netting",
        ),
        Entry(
            "e3",
            make("describe", table="bushes", what="leaf length", by="cultivar"),
            "Leaf length by cultivar",
        ),
        Entry(
            "e4",
            make("test", table="tasters", groups="columns", what="score after",
                 other="score before", claim="greater", design="matched", method="paired t"),
            "Did training raise the scores?",
        ),
        Entry(
            "e5",
            make("plot", table="bushes", what="leaf mass", against="leaf length", shape="scatter",
                 colour="cultivar"),
            "Leaf mass against leaf length",
        ),
    )  # fmt: skip
    report = (
        TextBlock("r1", "Withering and water\n\nTwo ways of withering were compared on 22 trays."),
        EntryBlock("r2", "e1"),
        EntryBlock("r3", "e2"),
    )
    return Study("Orrin Ridge tea garden", tables, entries, report)


if __name__ == "__main__":
    HERE.mkdir(exist_ok=True)
    for name, data in write_parts(study()).items():
        path = HERE / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data)
