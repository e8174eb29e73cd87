"""Drawn discharges that are none are refused in words."""

import random

import numpy as np
import pytest
from msgspec.structs import asdict
from tests.length import so_many

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import SheetCurve, SheetPulse
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.checked import made
from lumvak.core.run.one_cell import one_cell


def test_a_discharge_of_another_cell_is_refused(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    curve = SheetCurve(current_a=1.0, points=((0.0, 2.4), (1.0, 2.2), (2.0, 2.1), (3.0, 1.9)))
    with pytest.raises(ValueError, match=r"begins at 2\.4 V; accepted: over the empty voltage"):
        made(Cell, {**asdict(cell), "curves": (asdict(curve),)})


@pytest.mark.parametrize("seed", range(so_many(8, 25)))
def test_whatever_is_drawn_the_cell_stays_one(catalogue: Catalogue, seed: int) -> None:
    draw = random.Random(seed)
    cell = draw.choice(list(catalogue.cells.values()))
    known = catalogue.chemistry_of(cell)
    curves = []
    for _ in range(draw.randint(1, 4)):
        count, ah = (
            draw.choice((4, 6, 25)),
            cell.capacity_typical_ah * 10 ** draw.uniform(-1.5, 1.0),
        )
        charge = sorted(draw.uniform(0.0, ah) for _ in range(count))
        top = draw.uniform(cell.voltage_empty_v + 0.05, cell.voltage_full_v + 0.2)
        volts = sorted((draw.uniform(0.5, top) for _ in range(count - 1)), reverse=True)
        curves.append(
            SheetCurve(
                current_a=cell.capacity_typical_ah * 10 ** draw.uniform(-2.0, 1.3),
                temperature_c=draw.choice((25.0, 25.0, 0.0, -10.0, 45.0)),
                points=tuple(zip(charge, [top, *volts], strict=True)),
            )
        )
    pulses = tuple(
        SheetPulse(
            charge=draw.random(),
            seconds=draw.uniform(0.2, 300.0),
            temperature_c=celsius,
            ohm=10 ** draw.uniform(-5.0, 1.0),
        )
        for celsius in draw.sample((25.0, 25.0, 0.0, -20.0), draw.randint(0, 3))
    )
    drawn = made(
        Cell,
        {
            **asdict(cell),
            "curves": tuple(asdict(item) for item in curves),
            "pulses": tuple(asdict(item) for item in pulses),
        },
    )
    seen = behaviour_of(drawn, known)
    assert np.all(np.diff(seen.rest_charge) > 0.0)
    assert np.all(np.diff(seen.rest_v) >= -1e-9)
    assert seen.capacity_scale > 0.0 and seen.fast_ohm > 0.0 and seen.slow_ohm >= 0.0
    assert np.all(seen.shape > 0.0) and np.isfinite(seen.lag_s)
    run = one_cell(drawn, seen, cell.capacity_typical_ah, 25.0)
    assert np.isfinite(run.taken_ah) and np.all(np.isfinite(run.temperature_c))


@pytest.mark.parametrize(
    ("points", "says"),
    [
        (((0.0, 4.1), (1.0, 3.9), (1.0, 3.7), (2.0, 3.0)), "charge taken must rise"),
        (((0.0, 4.1), (1.0, 3.6), (1.5, 3.7), (2.0, 3.0)), "must not rise"),
        (((0.0, 3.6), (1.0, 3.6), (1.5, 3.6), (2.0, 3.6)), "must end lower"),
        (((0.0, 4.1), (1.0, 3.0)), "accepted: 4 to 2000 of them"),
    ],
)
def test_a_curve_that_is_none_is_refused(
    points: tuple[tuple[float, float], ...], says: str
) -> None:
    with pytest.raises(ValueError, match=says):
        made(SheetCurve, {"current_a": 1.0, "points": points})
