"""What is done once the window is up, so that a first entry need not wait for it."""

from __future__ import annotations

import gc
import importlib
from collections.abc import Iterator

from theoros.desk.parts.engine import Engine
from theoros.desk.parts.worker import Worker
from theoros.verbs.core.registry import make, verbs


def warm_up(answers: Engine, side_work: Worker) -> None:
    """Imports what a first entry needs while the hands are still, so that it need not wait."""
    from theoros.engine.tasks.answers import WarmUp

    answers.run("warm up", WarmUp())

    def steps() -> Iterator[object]:
        from theoros.answer.axis import Axis
        from theoros.answer.layout import lay_out
        from theoros.answer.picture import Frame, Picture

        for name in verbs():
            statement = make(name)  # which finds the kinds, shapes and procedures there are
            yield statement.phrase({}), statement.settings({})
        yield importlib.import_module("cattrs")  # which checks what is put into slots
        yield lay_out(Picture((Frame(Axis(0, 1, "x"), ()),)), 700, 400)
        gc.freeze()

    side_work.run("warm up", steps)
