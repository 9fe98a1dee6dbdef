"""Examples of simulations, for the manual and the tests; with the models that they are of."""

from __future__ import annotations

from theoros.answer.typed_number import TypedNumber
from theoros.verbs.data.one_sample import OneColumn
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.simulate.models.bag import BagModel
from theoros.verbs.simulate.models.population import ColumnModel, ShapeModel
from theoros.verbs.simulate.models.procedures import ClaimModel, ResampleModel
from theoros.verbs.simulate.models.share import ShareModel
from theoros.verbs.simulate.models.stages import StagesModel
from theoros.verbs.simulate.models.waiting import WaitModel
from theoros.verbs.simulate.statement import SimulateStatement

EXAMPLES = (
    SimulateStatement(model=ShareModel("jar", "leaks", TypedNumber("1/8"), 25), ask="at most", value=1.0, each="crate"),
    SimulateStatement(
        table="trays",
        parameter="mean",
        way="shuffled labels",
        ask="at least",
        model=ClaimModel(),
        data=TwoLevels(what="moisture loss", by="withering", first="slow", second="quick", design="separate"),
    ),
    SimulateStatement(table="bushes", model=ColumnModel("leaf mass", 12), statistic="mean", also=("median",)),
    SimulateStatement(
        model=ShapeModel("leaf length", "mm", "skewed right", 62.0, 9.5, 20),
        statistic="mean",
        ask="at least",
        value=66.0,
    ),
    SimulateStatement(model=BagModel("die", "1 to 6", 2), statistic="total", ask="at least", value=10.0),
    SimulateStatement(model=StagesModel("jar", 25), statistic="number", outcome="leaks", ask="at least", value=6.0),
    SimulateStatement(
        model=WaitModel("packet", until="all kinds", listed="1 to 6"), statistic="wait", ask="at most", value=10.0
    ),
    SimulateStatement(
        table="bushes",
        model=ResampleModel(),
        data=OneColumn("leaf mass"),
        parameter="median",
        way="percentile",
        ask="middle",
    ),
)
