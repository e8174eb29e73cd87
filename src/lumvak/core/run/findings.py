"""What there is to notice about the run of the pack."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.figures.finding import Finding
from lumvak.core.need.demand import Demand
from lumvak.core.run.figures import RunResult
from lumvak.core.said import phrase, say

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
            text=phrase("The pack gives up at {} charge", say(left, "%")),
            why=phrase(
                "From there on no current gives {}: the voltage falls faster than the current "
                "rises.",
                say(demand.load_figure.value, "W"),
            ),
            do="Take more cells in parallel or a cell with less resistance.",
            stage="run",
            figure="run.time_h",
        )
    elif result.warm.ended == "too warm":
        yield Finding(
            "too-warm",
            "warn",
            text=phrase(
                "The cells reach {} after {}, with {} charge left",
                say(limit_c, "°C"),
                say(result.warm.hours, "h"),
                say(float(result.warm.charge[-1]), "%"),
            ),
            why="The heat of the cells cannot leave fast enough.",
            do="More in parallel, a cell with less resistance, or more air around the pack.",
            stage="run",
            figure="run.warmest_c",
        )
    if peak_given and result.peak_from > PEAK_CHARGE:
        yield Finding(
            "peak-stops",
            "warn",
            text=phrase(
                "A peak of {} stops the equipment below {} charge",
                say(demand.peak.value, "A"),
                say(result.peak_from, "%"),
            ),
            why=phrase("It pulls the pack to {} for a moment.", say(demand.window.stop.value, "V")),
            do="Pull gently near the end, or take a pack with less resistance.",
            stage="run",
            figure="run.peak_from_charge",
        )
    yield Finding(
        "first-run",
        "note",
        "Attend the first discharge",
        "On a surface that cannot burn, away from a way out, with a way to carry it outside.",
        "A pack is released on measured values, not on these.",
        "run",
    )
