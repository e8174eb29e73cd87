"""``lumvak cell``: how a cell behaves, fitted to what its sheet draws, at any current."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from typing import Any

from lumvak.cli.command import Refuse
from lumvak.cli.named import NotKnown, named
from lumvak.cli.parts.at_hand import catalogue_of
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.cells.sheet_reading import curve_said, fit_told
from lumvak.core.run.one_cell import one_cell
from lumvak.core.spelling import spoken

USUAL_RATES = (0.2, 1.0, 2.0)


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print how a cell behaves; 0 when done, 2 where it is not known or a file is no good."""
    catalogue = catalogue_of(chosen)
    if catalogue is None:
        return 2
    try:
        cell = catalogue.cells[named(chosen.cell, catalogue.cells, "cell")]
    except NotKnown as problem:
        complain("lumvak cell", problem)
        return 2
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    amps = [rate * cell.capacity_typical_ah for rate in USUAL_RATES]
    wanted = chosen.at or [(round(value, 6), ROOM_C) for value in amps]
    answer = cell_json(cell, seen, wanted)
    tell(chosen, answer, lambda: cell_text(cell, seen, answer))
    return 0


def cell_json(cell: Cell, seen: Behaviour, wanted: Sequence[tuple[float, float]]) -> dict[str, Any]:
    """The behaviour of a cell, how far the fit is off, and discharges, as JSON."""
    runs = []
    for current_a, celsius in wanted:
        run = one_cell(cell, seen, current_a, celsius)
        runs.append(
            {
                "current_a": current_a,
                "temperature_c": celsius,
                "delivered_ah": run.taken_ah,
                "delivered_wh": run.delivered_wh,
                "mean_voltage_v": run.delivered_wh / run.taken_ah if run.taken_ah else None,
                "loss_wh": run.cell_loss_wh,
                "ended": run.ended,
            }
        )
    fit = seen.fit
    return {
        "cell": cell.id,
        "fitted": fit is not None,
        "curves": []
        if fit is None
        else [
            {
                "current_a": curve.current_a,
                "temperature_c": curve.temperature_c,
                "residual_v": residual,
                "end_off": end,
            }
            for curve, residual, end in zip(cell.curves, fit.residual_v, fit.end_off, strict=True)
        ],
        "resistance_10s_ohm": seen.ten_second_ohm,
        "resistance_steady_ohm": seen.steady_ohm,
        "lag_s": seen.lag_s,
        "reach_h": seen.reach_h,
        "full_ah": cell.capacity_typical_ah * seen.capacity_scale,
        "entropy_v_per_k": seen.entropy_v_per_k,
        "runs": runs,
    }


def cell_text(cell: Cell, seen: Behaviour, answer: dict[str, Any]) -> str:
    """The same as lines to read."""
    lines = [
        cell.name,
        *(f"  {spoken(label)}: {spoken(words)}" for label, words in fit_told(cell, seen)),
    ]
    if answer["curves"]:
        rows = [
            (
                spoken(curve_said(curve)),
                f"{1e3 * item['residual_v']:.0f} mV",
                f"{100.0 * item['end_off']:+.1f} %",
            )
            for curve, item in zip(cell.curves, answer["curves"], strict=True)
        ]
        lines += ["", table(("drawn", "fit is off", "its end"), rows)]
    runs = [
        (
            say(run["current_a"], "A"),
            say(run["temperature_c"], "°C"),
            say(run["delivered_ah"], "Ah"),
            say(run["delivered_wh"], "Wh"),
            say(run["mean_voltage_v"], "V"),
        )
        for run in answer["runs"]
    ]
    lines += ["", table(("discharge at", "cell at", "gives", "energy", "mean"), runs)]
    return "\n".join(lines)
