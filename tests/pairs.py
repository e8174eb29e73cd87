"""Pairs of needs of which the second asks for more: more load, a higher stop, longer, hotter."""

from __future__ import annotations

import random
from typing import Any

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.demand import demand_of, voltage_window
from tests.needs import random_need

WAYS = ("more load", "more peak", "higher stop", "longer", "hotter at its warmest", "hotter")
ROOM_C = 25.0
# So far as a need may go.
HOTTEST_C = 70.0


def asked_more(need: Need, way: str, draw: random.Random) -> dict[str, Any]:
    """What to change so that a need asks for more in one way."""
    factor = draw.uniform(1.01, 1.8)
    demand = demand_of(need)
    if way == "more load":
        if need.load_basis == "power":
            return {"need.power_w": need.power_w * factor}
        peak = need.peak_current_a
        more = {"need.current_a": need.current_a * factor}
        return more if peak is None else {
            **more, "need.peak_current_a": max(peak, need.current_a * factor)
        }  # fmt: skip
    if way == "more peak":
        return {"need.peak_current_a": demand.peak.number * factor}
    if way == "higher stop":
        stop = voltage_window(need).stop.number * draw.uniform(1.003, 1.08)
        return {"need.stop_voltage_v": min(round(stop, 2), 0.999 * need.rated_voltage_v)}
    if way == "longer":
        return {"need.runtime_h": need.runtime_h * factor}
    cold, warm = demand.coldest.number, demand.ambient.number
    return {
        "need.coldest_c": cold if way == "hotter at its warmest" else min(HOTTEST_C, cold + 5.0),
        "need.ambient_c": min(HOTTEST_C, warm + draw.uniform(6.0, 15.0)),
    }


def random_pair(seed: int) -> tuple[Project, Project, str]:
    """A random need, one that asks for more, and in which way."""
    draw = random.Random(seed)
    project, way = random_need(seed), WAYS[seed % len(WAYS)]
    if way == "hotter":
        # Below room temperature cells do gain by warmth, and get the credit for it.
        demand = demand_of(project.need)
        warm = max(ROOM_C, demand.ambient.number)
        project = with_values(project, {"need.coldest_c": ROOM_C, "need.ambient_c": warm})
    return project, with_values(project, asked_more(project.need, way, draw)), way


def least_counts(project: Project, catalogue: Catalogue) -> dict[tuple[str, int], int]:
    """The fewest in parallel of every cell and series count that serves."""
    options = evaluate(project, catalogue).options
    found: dict[tuple[str, int], int] = {}
    for place in range(len(options)):
        key = (options.cell(place).id, int(options.series[place]))
        count = int(options.parallel[place])
        found[key] = min(count, found.get(key, count))
    return found


def gained(project: Project, harder: Project, catalogue: Catalogue) -> list[str]:
    """Packs that need fewer cells, or serve at all, only where more is asked; none is right."""
    before, after = least_counts(project, catalogue), least_counts(harder, catalogue)
    return [
        f"{cell} {series}S{count}P"
        for (cell, series), count in after.items()
        if count < before.get((cell, series), 10**9)
    ]
