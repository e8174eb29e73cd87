"""Random documents with values near every limit, several of them set together."""

from __future__ import annotations

import math
import random
import typing
from functools import cache
from typing import Any

import numpy as np

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging_in_hand import (
    charge_in_hand,
    cycles_in_hand,
    log_in_hand,
    plan_in_hand,
    why_no_plan,
    why_not_begun,
)
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import Accepts, Field
from tests.edits import fields_of, parts_of, value_for

MOST_SET, MOST_CELLS = 5, 400
# Beside a limit, as far as matters.
NEAR = (1e-12, 1e-9, 1e-6, 1e-3)


@cache
def _known() -> tuple[tuple[str, Field], ...]:
    return tuple(fields_of())


def _limits(kind: Accepts) -> tuple[float, float]:
    """The least and the most that a field takes, just inside where the limit itself is out."""
    low, high = -1e6, 1e6
    if kind.ge is not None:
        low = float(kind.ge)
    if kind.gt is not None:
        low = math.nextafter(float(kind.gt), math.inf)
    if kind.le is not None:
        high = float(kind.le)
    if kind.lt is not None:
        high = math.nextafter(float(kind.lt), -math.inf)
    return low, high


def _extreme(field: Field, draw: random.Random) -> Any:
    """A number near a limit of its field; raises KeyError where it takes none."""
    kind = field.accepts
    if kind.plain not in (float, int):
        raise KeyError
    low, high = _limits(kind)
    value = draw.choice(
        (low, *(low + step for step in NEAR), high, 0.999 * high, 0.5 * (low + high), 1.0, 0.0)
    )
    return value if kind.plain is float else int(value)


def random_document(seed: int, bases: typing.Sequence[Project], catalogue: Catalogue) -> Project:
    """One of ``bases`` with up to five of its values near a limit or elsewhere."""
    draw = random.Random(seed)
    project, parts = draw.choice(bases), parts_of(catalogue)
    for _ in range(draw.randint(1, MOST_SET)):
        path, field = draw.choice(_known())
        now: Any = project
        for step in path.split("."):
            now = getattr(now, step)
        try:
            try:
                value = _extreme(field, draw)
            except KeyError:
                value = value_for(path, field, now, parts, draw)
            fresh = with_values(project, {path: value})
        except (KeyError, ProjectError):
            continue
        if (fresh.pack.series or 1) * (fresh.pack.parallel or 1) <= MOST_CELLS:
            project = fresh
    return project


def not_finite(evaluation: Evaluation) -> list[str]:
    """Keys of figures that are infinite or no number."""
    return [
        key
        for key, figure in evaluation.figures.items()
        if isinstance(figure.value, float) and not math.isfinite(figure.value)
    ]


def _some(draw: random.Random, **fields: tuple[tuple[Any, ...], float]) -> dict[str, Any]:
    """Some of these fields, each with its chance, at one of its values."""
    return {
        name: draw.choice(values)
        for name, (values, chance) in fields.items()
        if draw.random() < chance
    }


def random_charging(project: Project, seed: int) -> Project:
    """A project whose charging has values near its limits; as it was where they are refused."""
    draw = random.Random(seed)
    amps = draw.choice((1e-3, 0.1, 2.0, 50.0, 1000.0))
    charger = {
        "id": "odd",
        "name": "odd",
        "kind": draw.choice(("cccv", "lead", "nickel", "supply")),
        "volts": draw.choice((1e-3, 1.0, 20.0, 42.0, 58.8, 1000.0)),
        "amps": amps,
        **_some(
            draw,
            end_a=((1e-3 * amps, 0.999 * amps), 0.3),
            timer_h=((1e-3, 1000.0), 0.3),
            open_v=((1e-3, 2000.0), 0.2),
        ),
    }
    groups = tuple(
        _some(
            draw,
            ah=((1e-5, 0.1, 10.0, 1e5), 0.4),
            share=((0.0, 1e-6, 0.5, 0.999, 1.0), 0.4),
            volts=((1e-3, 2.0, 3.7, 4.2, 6.0), 0.3),
            leak_ma=((0.0, 1e-3, 10.0, 1e5), 0.3),
            mohm=((1e-5, 1e-2, 10.0, 1e5), 0.3),
        )
        for _ in range(draw.randint(0, 16))
    )
    rows, seconds = list[dict[str, Any]](), 0.0
    for _ in range(draw.randint(0, 6)):
        seconds += draw.choice((1e-3, 1.0, 60.0, 1e5))
        rows.append(
            {
                "seconds": seconds,
                **_some(
                    draw,
                    volts=((1e-3, 40.0, 58.0, 1000.0), 1.0),
                    amps=((-1000.0, 0.0, 4.0, 1000.0), 0.8),
                    warm_c=((-40.0, 150.0), 0.5),
                ),
            }
        )
    changes = {
        "charging.chargers": (charger,),
        "charging.charger": "odd",
        "charging.groups": groups,
        "charging.log.rows": tuple(rows),
        **_some(
            draw,
            **{
                "charging.start": ((0.0, 1e-6, 0.9, 0.99), 0.5),
                "charging.by": (("module", "active", "none"), 0.6),
                "charging.at": (("bottom",), 0.3),
                "charging.module.ohm": ((0.1, 1.0, 1e5), 0.5),
                "charging.module.from_v": ((1e-3, 3.0, 4.1, 6.0), 0.5),
                "charging.module.strategy": (("average",), 0.5),
                "charging.mover.amps": ((1e-3, 100.0), 0.5),
                "charging.mover.efficiency": ((1e-3, 1.0), 0.5),
                "charging.mover.way": (("pack-low", "high-pack"), 0.5),
                "charging.stays_h": ((1.0, 1000.0), 0.5),
                "charging.cycles": ((1, 3), 0.7),
                "charging.between_days": ((0.0, 365.0), 0.5),
                "charging.cell_c": ((-40.0, 20.0, 70.0), 0.5),
                "charging.floor_v": ((1e-3, 3.0, 4.0), 0.3),
            },
        ),
    }
    try:
        return with_values(project, changes)
    except ProjectError:
        return project


def simulated(evaluation: Evaluation) -> list[str]:
    """What is simulated of a charge and is not finite, by its name.

    What must not begin says why, and is not simulated.
    """
    cycles = cycles_in_hand(evaluation, min(evaluation.project.charging.cycles, 3))
    log = log_in_hand(evaluation)
    found: dict[str, tuple[Any, ...]] = {
        "cycles": tuple(
            part
            for cycle in cycles
            for part in (cycle.full, cycle.empty, np.array([cycle.usable_ah, cycle.bleed_wh]))
        ),
        "log": (log.expected_v, log.ah, log.wh, log.band_v),
    }
    if not why_not_begun(evaluation):
        charge = charge_in_hand(evaluation, band=True)
        found["charge"] = (charge.volts, charge.amps, charge.share, charge.celsius, charge.band_v)
    if not why_no_plan(evaluation):
        plan = plan_in_hand(evaluation)
        found["plan"] = (plan.volts, plan.band_v)
    return [
        name
        for name, parts in found.items()
        if not all(np.isfinite(part).all() for part in parts if part is not None)
    ]
