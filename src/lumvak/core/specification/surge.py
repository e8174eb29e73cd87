"""What to look for in what limits the first rush (methods 41): methods 23 as windows."""

from __future__ import annotations

import math
from collections.abc import Iterator

from lumvak.core.document.power import NONE
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.surge import CONSTANTS, LONGEST_PRECHARGE_S, SPARK_J
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by

SURGE = Maker("surge")


def surge_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of a precharge part and of a surge thermistor; what is wanted of both."""
    windows = (*_precharge(evaluation), *_thermistor(evaluation))
    wanted = evaluation.project.power
    picked = wanted.surge != NONE or wanted.precharge != NONE
    return PartSpec("surge", windows, needed=picked or evaluation.power.spark.number > SPARK_J)


def _precharge(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """A resistor or a first contact through which capacitors fill."""
    power, full = evaluation.power, evaluation.sized.pack.full
    capacitance = power.capacitance
    farad = capacitance.number * 1e-6
    if farad <= 0.0:
        return
    yield SURGE.window(
        "ohm",
        "Precharge: resistance",
        "Ω",
        least=by(full.number / evaluation.sized.drawn.limited.peak_a, "full voltage ÷ peak", full),
        most=by(LONGEST_PRECHARGE_S / (CONSTANTS * farad), "5 s ÷ 5·C", capacitance),
        case="resistor",
        set_by="capacitors of the controller",
        reason="longer than five seconds nobody holds a button",
        advice=("least",),
    )
    yield SURGE.window(
        "energy_j",
        "Precharge: swallows at once",
        "J",
        least=by(0.5 * farad * full.number**2, "½·C·V²", capacitance, full),
        case="resistor",
        set_by="capacitors of the controller",
        reason="a wire-wound resistor, not a film: it takes all at once",
    )


def _thermistor(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """A thermistor that keeps the start of a motor under the levels of the BMS."""
    raw, load, full = evaluation.sized.drawn.raw, evaluation.sized.pack.current, evaluation.sized
    board, start = evaluation.power.board, evaluation.figures.get("start.current_a")
    if start is None or board is None or raw.start_a <= 0.0:
        return
    volts = full.pack.full
    allowed = [
        raw.continuous_a + (amps - raw.continuous_a) * math.exp(min(delay / raw.tau_s, 50.0))
        for amps, delay in board.trips
        if raw.start_after_a(delay) > amps
    ]
    wanted = [volts.number / amps - volts.number / raw.start_a for amps in allowed if amps > 0.0]
    if not wanted:
        return
    yield SURGE.window(
        "ohm",
        "Thermistor: cold resistance",
        "ohm",
        least=by(max(wanted), "what brings the start under every level of the BMS", start, volts),
        case="thermistor",
        set_by="start of the motor",
        reason="at the ambient temperature; cold ones have more",
    )
    yield SURGE.window(
        "steady_a",
        "Thermistor: continuous current",
        "A",
        least=by(load.number, "what is drawn continuously", load),
        case="thermistor",
        set_by="continuous load",
        reason="it stays in the path",
    )
