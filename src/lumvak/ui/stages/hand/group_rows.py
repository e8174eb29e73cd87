"""What the tables of dealt cells say: of every method, and of every group."""

from __future__ import annotations

from lumvak.core.matching.matched import GroupNow
from lumvak.ui.speech import in_words, say
from lumvak.ui.widgets.rows import Column

METHOD_COLUMNS = (
    Column("method", left=True, stretch=True, tip="How the cells are assigned"),
    Column("capacity apart", tip="Largest less least group, over the mean"),
    Column("conductance apart", tip="Largest less least group, over the mean"),
    Column("delivers", tip="Charge of the weakest group"),
    Column("busiest cell", tip="How far above its equal share of the load, from the network"),
)


def _apart(group: GroupNow) -> str:
    if group.gate is None or not group.gate.high:
        return "—"
    return say(group.gate.volts * 1e3, in_words("mV")) if group.gate.told else "alike"


def _flow(group: GroupNow) -> str:
    gate = group.gate
    return "—" if gate is None or not gate.high else say(gate.current_a, "A")


GROUP_COLUMNS = (
    Column("group", text=lambda it: str(it.number), tip="Counted from the most negative"),
    Column(
        "Ah",
        text=lambda it: "—" if it.ah is None else say(it.ah, in_words("Ah")),
        tip="All its cells",
    ),
    Column(
        "mΩ",
        text=lambda it: "—" if it.siemens is None else say(1e3 / it.siemens, "mΩ"),
        tip="All its cells side by side, as measured",
    ),
    Column(
        "rests at",
        text=lambda it: "—" if it.volts is None else say(it.volts, "V"),
        tip="Once its cells are joined, as they are now",
    ),
    Column("apart", text=_apart, tip="The two that are farthest apart in voltage"),
    Column(
        "would flow",
        text=_flow,
        mark=lambda it: "crimson" if it.gate is not None and it.gate.recipe is not None else "",
        tip="Between these two if they were joined now",
    ),
    Column(
        "cells",
        text=lambda it: ", ".join(map(str, sorted(it.cells))),
        left=True,
        stretch=True,
        wraps=True,
        tip="Numbers on the wrappers",
    ),
)
