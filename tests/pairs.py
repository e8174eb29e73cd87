"""Pairs of needs of which the second asks for more: more load, a higher stop, longer, hotter."""

from __future__ import annotations

import math
import random
from typing import Any

import numpy as np

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.demand import demand_of
from lumvak.core.need.window import voltage_window
from lumvak.core.sizing.counts import smallest_parallel
from lumvak.core.sizing.search import series_bounds
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
        peak = need.peak_current_a
        # In the cold more load warms the cells, so that a peak that stays is held more easily.
        cold = demand.coldest.number < ROOM_C
        if need.load_basis == "power":
            more = {"need.power_w": need.power_w * factor}
            return (
                more if peak is None or not cold else {**more, "need.peak_current_a": peak * factor}
            )
        more = {"need.current_a": need.current_a * factor}
        if peak is None:
            return more
        return {
            **more,
            "need.peak_current_a": max(peak * (factor if cold else 1.0), need.current_a * factor),
        }
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
    if way == "higher stop":
        # An old tool has no low-voltage cut-off of its own before one is typed; a power load that
        # stops higher draws less there, and asks for less.
        stop = voltage_window(project.need).stop.number
        plain = {"need.stop_voltage_v": stop, "need.load_basis": "current"}
        project = with_values(project, plain)
    if way == "hotter":
        # Below room temperature cells do gain by warmth, and get the credit for it.
        demand = demand_of(project.need)
        warm = max(ROOM_C, demand.ambient.number)
        project = with_values(project, {"need.coldest_c": ROOM_C, "need.ambient_c": warm})
    return project, with_values(project, asked_more(project.need, way, draw)), way


def asked_a_little_more(need: Need, share: float = 0.01) -> tuple[dict[str, Any], ...]:
    """What to change so that a need asks for a hundredth more load, or more time."""
    more = 1.0 + share
    if need.load_basis == "power":
        load = {"need.power_w": need.power_w * more}
    else:
        load = {"need.current_a": need.current_a * more}
        if need.peak_current_a is not None:
            load["need.peak_current_a"] = max(need.peak_current_a, need.current_a * more)
    if need.endurance_basis == "capacity":
        return load, {"need.capacity_ah": need.capacity_ah * more}
    return load, {"need.runtime_h": need.runtime_h * more}


def least_counts(project: Project, catalogue: Catalogue) -> dict[tuple[str, int], float]:
    """The fewest in parallel that meet the needs, of every cell and series count in the window.

    Whether that leaves enough of the charge is asked at that count, which more asked may raise.
    """
    sized_pack = evaluate(project, catalogue).sized.sized_pack
    bounds = series_bounds(sized_pack.table, sized_pack.demand.window)
    places = [
        (row, count) for row, (low, high) in enumerate(bounds) for count in range(low, high + 1)
    ]
    rows, series = np.array(places, dtype=np.intp).reshape(-1, 2).T
    least = smallest_parallel(sized_pack.table, rows, series.astype(float), sized_pack.terms)
    return {
        (sized_pack.table.cells[row].id, count): number
        for (row, count), number in zip(places, least.tolist(), strict=True)
        if math.isfinite(number)
    }


def gained(project: Project, harder: Project, catalogue: Catalogue) -> list[str]:
    """Packs that need fewer cells, or serve at all, only where more is asked; none is right."""
    before, after = least_counts(project, catalogue), least_counts(harder, catalogue)
    return [
        f"{cell} {series}S{count:g}P"
        for (cell, series), count in after.items()
        if count < before.get((cell, series), 10**9)
    ]
