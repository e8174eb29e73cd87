"""The first charge in stages, as rows of a table."""

from __future__ import annotations

from collections.abc import Sequence

from lumvak.core.charging.first_charge import PlanStage
from lumvak.ui.speech import in_words, say, say_hours, spoken
from lumvak.ui.widgets.rows import Column, Row, row_of

NAMES = {"before": "before", "slow": "slowly", "usual": "as usual", "taper": "taper",
         "rest": "rest"}  # fmt: skip
A_DAY_MIN = 1440.0


def _read_at(stage: PlanStage) -> str:
    read: Sequence[float] = stage.read
    minutes = [f"{minute:.0f}" for minute in read if minute < A_DAY_MIN]
    shown = ", ".join(minutes[:4]) + (" …" if len(minutes) > 4 else "") + " min"
    if len(minutes) < len(read):
        shown += ", next day"
    return shown


PLAN = (
    Column(
        "stage",
        text=lambda it: NAMES[it.name],
        left=True,
        sample="as usual",
        tip="In the order in which they come",
    ),
    Column(
        "amps",
        text=lambda it: "none" if it.amps == 0.0 else say(it.amps, "A"),
        tip="No more than this",
    ),
    Column("until", text=lambda it: spoken(it.until), left=True, stretch=True, tip="What ends it"),
    Column(
        "about",
        text=lambda it: say_hours(it.hours),
        sample="30 min",
        tip="How long it is expected to take",
    ),
    Column(
        "read at", text=_read_at, left=True, sample="0, 5, 15, 30 min", tip="Minutes into the stage"
    ),
    Column(
        "apart",
        text=lambda it: say(1e3 * it.apart_v, in_words("mV")),
        tip="A group farther from the mean than this is looked into",
    ),
    Column(
        "warmer",
        text=lambda it: say(it.rise_k, "K") if it.rise_k else "",
        tip="Over the air; more than this is looked into",
    ),
)


def plan_row(stage: PlanStage, chosen: bool) -> Row:
    """A stage of the plan as a row."""
    return row_of(PLAN, stage, value=stage.name, key=stage.name, chosen=chosen)
