"""Random needs of all kinds, as a builder would have them: whole numbers, usual voltages."""

from __future__ import annotations

import random
from typing import Any

from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project

RATED_V = {
    "vehicle": (24.0, 36.0, 48.0, 52.0, 60.0, 72.0),
    "tool": (9.6, 12.0, 14.4, 18.0, 24.0, 36.0),
    "supply": (12.0, 24.0, 36.0, 48.0),
    "portable": (12.0, 24.0, 36.0, 48.0),
}
# Continuous current in A and hours of work, from and to.
CURRENT_A = {"vehicle": (4.0, 60.0), "tool": (3.0, 45.0), "supply": (1.0, 50.0),
             "portable": (1.0, 30.0)}  # fmt: skip
HOURS = {"vehicle": (0.4, 4.0), "tool": (0.1, 1.0), "supply": (0.5, 12.0), "portable": (0.5, 8.0)}


def random_need(seed: int) -> Project:
    """A project of which only the need is said, drawn from ``seed``."""
    draw = random.Random(seed)
    kind = draw.choice(tuple(RATED_V))
    low, high = CURRENT_A[kind]
    current = round(low * (high / low) ** draw.random(), 1)
    hours = round(HOURS[kind][0] * (HOURS[kind][1] / HOURS[kind][0]) ** draw.random(), 2)
    rated = draw.choice(RATED_V[kind])
    changes: dict[str, Any] = {
        "need.kind": kind,
        "need.rated_voltage_v": rated,
        "need.runtime_h": hours,
        "need.load_basis": "current",
        "need.current_a": current,
    }
    if draw.random() < 0.3:
        changes |= {"need.load_basis": "power", "need.power_w": float(round(current * rated))}
    if draw.random() < 0.6:
        changes["need.peak_current_a"] = round(current * draw.uniform(1.2, 3.5), 1)
        changes["need.peak_duration_s"] = draw.choice((0.5, 1.0, 3.0, 10.0, 30.0))
    if draw.random() < 0.5:
        changes["need.max_voltage_v"] = round(rated * draw.uniform(1.12, 1.4), 1)
        changes["need.stop_voltage_v"] = round(rated * draw.uniform(0.72, 0.9), 1)
    if draw.random() < 0.4:
        changes["need.ambient_c"] = float(draw.randint(0, 35))
        if draw.random() < 0.5:
            changes["need.coldest_c"] = changes["need.ambient_c"] - draw.randint(0, 15)
    return with_values(Project(), changes)


# Usual windows: rated voltage, and what equipment of that class survives and stops at.
WINDOWS = {
    "vehicle": ((24.0, 29.4, 20.0), (36.0, 42.0, 30.0), (48.0, 54.6, 39.0), (52.0, 58.8, 42.0),
                (60.0, 67.2, 48.0), (72.0, 84.0, 60.0)),
    "supply": ((12.0, 14.8, 10.5), (12.8, 14.6, 10.8), (24.0, 29.4, 21.0), (36.0, 43.8, 31.0),
               (48.0, 58.4, 42.0)),
}  # fmt: skip


def builders_need(seed: int) -> Project:
    """A need as builders have them: vehicles, old tools, supplies, boats; -10 to 40 degC."""
    draw = random.Random(f"builder {seed}")
    what = draw.choice(("vehicle", "tool", "supply", "boat"))
    changes: dict[str, Any] = {"need.load_basis": "current"}
    if what == "tool":
        cells = draw.randint(8, 20)
        current = round(draw.uniform(5.0, 30.0), 1)
        changes |= {
            "need.kind": "tool",
            "need.rated_voltage_v": round(1.2 * cells, 1),
            "need.nickel_cells": cells,
            "need.current_a": current,
            "need.endurance_basis": "capacity",
            "need.capacity_ah": round(draw.uniform(1.3, 4.0), 1),
        }
    else:
        kind = "vehicle" if what == "vehicle" else "supply"
        rated, highest, stop = draw.choice(WINDOWS[kind])
        low, high, shortest, longest = {
            "vehicle": (5.0, 70.0, 0.4, 3.0),
            "supply": (1.0, 30.0, 1.0, 10.0),
            "boat": (10.0, 80.0, 0.5, 4.0),
        }[what]
        current = round(low * (high / low) ** draw.random(), 1)
        changes |= {
            "need.kind": kind,
            "need.rated_voltage_v": rated,
            "need.current_a": current,
            "need.runtime_h": round(shortest * (longest / shortest) ** draw.random(), 2),
        }
        if draw.random() < 0.6:
            changes |= {"need.max_voltage_v": highest, "need.stop_voltage_v": stop}
        if draw.random() < 0.3:
            changes |= {"need.load_basis": "power", "need.power_w": float(round(current * rated))}
    if draw.random() < 0.5:
        changes["need.peak_current_a"] = round(current * draw.uniform(1.3, 2.5), 1)
        changes["need.peak_duration_s"] = draw.choice((1.0, 3.0, 10.0))
    if draw.random() < 0.6:
        changes["need.ambient_c"] = float(draw.randint(0, 40))
        changes["need.coldest_c"] = float(draw.randint(-10, int(changes["need.ambient_c"])))
    return with_values(Project(), changes)
