"""The axis of a number: its ends, its scale, and what cannot be an axis."""

from __future__ import annotations

from theoros.answer.axis import Axis, log_span, span
from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact, whole
from theoros.numeric.arrays import Floats


def axis_for(
    values: Floats,
    label: str,
    log: bool,
    slots: tuple[str, str, str],
    ends: tuple[float | None, float | None] = (None, None),
    around: tuple[float, float] | None = None,
    *,
    days: bool = False,
    whole_numbers: bool = False,
    column: str = "",
) -> Axis:
    """The axis for values: its ends as given, else as far as they reach (or `around`).

    Whole numbers are ticked at whole numbers where the axis is long enough for that.
    `slots` name what says whether it is logarithmic, and its two ends; `column` the one whose
    name the label is. Raises CannotAnswer.
    """
    if log and values.size and float(values.min()) <= 0:
        count = int((values <= 0).sum())
        have = "is one such" if count == 1 else f"are {whole(count)}"
        raise CannotAnswer(
            f"A logarithmic scale needs values above 0, and in {label} there {have} of 0 or less. Choose the "
            "linear scale, or keep only the rows where it is above 0.",
            slots[0],
        )
    reach = around or (log_span(values) if log else span(values))
    first = reach[0] if ends[0] is None else ends[0]
    last = reach[1] if ends[1] is None else ends[1]
    if log and first <= 0:
        raise CannotAnswer(
            f"A logarithmic scale cannot begin at {exact(first)}: it needs values above 0. Choose a start above 0, "
            "or leave it automatic.",
            slots[1],
        )
    if not first < last:
        raise CannotAnswer(
            f"The axis would end at {exact(last)}, before it begins at {exact(first)}. Choose "
            f"other ends, or leave them automatic.",
            slots[1] if ends[0] is not None else slots[2],
        )
    return Axis(
        float(first),
        float(last),
        label,
        whole=whole_numbers and not log and last - first >= 2,
        days=days,
        log=log,
        cut=ends != (None, None),
        column=column,
    )
