"""What there is to notice about the run of the pack."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.figures.finding import Finding
from lumvak.core.need.demand import Demand
from lumvak.core.run.figures import RunResult
from lumvak.core.units import say

PEAK_CHARGE = 0.20


def run_findings(
    result: RunResult, demand: Demand, peak_given: bool, limit_c: float
) -> Iterator[Finding]:
    """What ended the run too soon; ``limit_c`` is the warmest that cells may get."""
    run = result.run
    left = float(run.charge[-1])
    if run.ended == "power not to be had":
        yield Finding(
            "power-not-to-be-had",
            "stop",
            f"The pack gives up at {say(left, '%')} charge",
            f"From there on no current gives {say(demand.load_figure.value, 'W')}: the "
            "voltage falls faster than the current rises.",
            "Take more cells in parallel or a cell with less resistance.",
            "run",
            "run.time_h",
        )
    elif result.warm.ended == "too warm":
        yield Finding(
            "too-warm",
            "warn",
            f"The cells reach {say(limit_c, '°C')} after {say(result.warm.hours, 'h')}, with "
            f"{say(float(result.warm.charge[-1]), '%')} charge left",
            "The heat of the cells cannot leave fast enough.",
            "More in parallel, a cell with less resistance, or more air around the pack.",
            "run",
            "run.warmest_c",
        )
    if peak_given and result.peak_from > PEAK_CHARGE:
        yield Finding(
            "peak-stops",
            "warn",
            f"A peak of {say(demand.peak.value, 'A')} stops the equipment below "
            f"{say(result.peak_from, '%')} charge",
            f"It pulls the pack to {say(demand.window.stop.value, 'V')} for a moment.",
            "Pull gently near the end, or take a pack with less resistance.",
            "run",
            "run.peak_from_charge",
        )
    yield Finding(
        "first-run",
        "note",
        "Attend the first discharge",
        "On a surface that cannot burn, away from a way out, with a way to carry it outside.",
        "A pack is released on measured values, not on these.",
        "run",
    )
