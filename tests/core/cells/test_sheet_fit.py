"""A cell fitted to drawn discharges: a made-up cell is found again, and what a sheet leaves out."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import SheetCurve
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.run.discharge import Run, discharge
from lumvak.core.run.model import ModelledPack, RunStep
from tests.length import so_many

MADE = "ostrel-21-48"


def of(catalogue: Catalogue, **changes: object) -> Behaviour:
    """A made-up cell that is not what its chemistry is taken for."""
    cell = catalogue.cells[MADE]
    made = behaviour_of(cell, catalogue.chemistry_of(cell))
    values: dict[str, object] = {
        "lag_s": 140.0,
        "ohm_exponent": 1.25,
        "lag_exponent": 2.0,
        "fast_ohm": 0.019,
        "slow_ohm": 0.008,
        "entropy_v_per_k": 0.0,
        "shape": made.shape * np.linspace(1.15, 0.9, len(made.shape)),
    }
    return replace(made, **{**values, **changes})  # type: ignore[arg-type]


def run(cell: Cell, seen: Behaviour, rate: float, celsius: float) -> Run:
    """One cell at a steady current, held at a temperature."""
    pack = ModelledPack(
        cell,
        seen,
        1,
        1,
        cell.capacity_typical_ah * seen.capacity_scale,
        0.0,
        0.0,
        0.01,
        celsius,
        150.0,
        1e-9,
        1e12,
    )
    amps = rate * cell.capacity_typical_ah
    return discharge(pack, [RunStep(amps, None, 1e6)], 30.0 / rate)


def drawn(cell: Cell, seen: Behaviour, rate: float, celsius: float = 25.0) -> SheetCurve:
    """A discharge as a sheet would draw it: two dozen points of Ah and volts."""
    done = run(cell, seen, rate, celsius)
    ah = done.time_s * rate * cell.capacity_typical_ah / 3600.0
    at = np.concatenate((np.linspace(0.0, 0.88, 15), np.linspace(0.9, 1.0, 9))) * ah[-1]
    volts = np.interp(at, ah, done.volts)
    return SheetCurve(
        current_a=rate * cell.capacity_typical_ah,
        temperature_c=celsius,
        points=tuple(zip(at.tolist(), volts.tolist(), strict=True)),
    )


def with_sheet(cell: Cell, seen: Behaviour, *, cold: bool) -> Cell:
    curves = [drawn(cell, seen, rate) for rate in (0.2, 1.0, 2.0)]
    if cold:
        curves.append(drawn(cell, seen, 0.5, 0.0))
    return replace(cell, curves=tuple(curves), resistance_dc_ohm=seen.ten_second_ohm)


@pytest.mark.parametrize("cold", [False, True])
def test_a_made_up_cell_is_found_again(catalogue: Catalogue, cold: bool) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    sheet = with_sheet(cell, true, cold=cold)
    found = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    assert found.fit is not None
    assert max(found.fit.residual_v) < (0.02 if cold else 0.012)
    assert found.steady_ohm == pytest.approx(true.steady_ohm, rel=0.08)
    assert found.fast_ohm == pytest.approx(true.fast_ohm, rel=0.15)
    assert found.lag_s == pytest.approx(true.lag_s, rel=0.35)
    trials = [(rate, 25.0, 0.01) for rate in (0.5, 0.8, 1.5)]
    trials += [(0.5, 10.0, 0.03), (1.0, 10.0, 0.03 if cold else 0.04)]
    if cold:
        assert found.ohm_exponent == pytest.approx(true.ohm_exponent, rel=0.1)
        trials += [(0.5, 0.0, 0.02), (1.0, 0.0, 0.03)]
    for rate, celsius, within in trials:
        told, held = run(sheet, found, rate, celsius), run(cell, true, rate, celsius)
        assert told.taken_ah == pytest.approx(held.taken_ah, rel=within)
        mean, meant = (item.delivered_wh / item.taken_ah for item in (told, held))
        assert mean == pytest.approx(meant, rel=within)


def test_a_current_that_does_not_reach_all_of_the_electrode_is_seen(catalogue: Catalogue) -> None:
    cell = catalogue.cells[MADE]
    true = of(catalogue, lag_s=60.0, reach_h=0.36)
    curves = tuple(drawn(cell, true, rate) for rate in (0.2, 1.0, 2.0))
    cold = drawn(cell, true, 1.0, 0.0)
    # At freezing point a quarter of the charge is not had.
    assert cold.points[-1][0] < 0.8 * curves[1].points[-1][0]
    sheet = replace(cell, curves=(*curves, cold))
    found = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    assert found.reach_h == pytest.approx(0.36, rel=0.15)
    for rate, celsius in ((0.5, 0.0), (1.0, 0.0), (1.0, 25.0), (1.0, 10.0)):
        told, held = run(sheet, found, rate, celsius), run(cell, true, rate, celsius)
        assert told.taken_ah == pytest.approx(held.taken_ah, rel=0.04)


@pytest.mark.parametrize("exponent", [0.3, 3.5])
def test_a_cold_curve_never_moves_what_the_room_curves_fixed(
    catalogue: Catalogue, exponent: float
) -> None:
    """The reach of a cell goes with temperature otherwise than is usual; the room is as it was."""
    cell = catalogue.cells[MADE]
    true = of(catalogue, lag_s=60.0, reach_h=0.77, reach_exponent=exponent)
    room = tuple(drawn(cell, true, rate) for rate in (0.2, 1.0, 2.0))
    alone, colder = (
        behaviour_of(sheet, catalogue.chemistry_of(sheet))
        for curves in (room, (*room, drawn(cell, true, 0.5, 0.0)))
        for sheet in [replace(cell, curves=curves)]
    )
    assert alone.reach_h > 0.0
    assert colder.reach_h == pytest.approx(alone.reach_h)
    assert colder.lag_s == pytest.approx(alone.lag_s)
    assert alone.fit is not None and colder.fit is not None
    assert colder.fit.end_off[:3] == pytest.approx(alone.fit.end_off, abs=1e-6)
    for rate in (0.5, 1.5):
        told, held = run(cell, colder, rate, 25.0), run(cell, true, rate, 25.0)
        assert told.taken_ah == pytest.approx(held.taken_ah, rel=0.05)
    # The cold one says how the reach goes with temperature.
    assert (colder.reach_exponent > alone.reach_exponent) == (exponent > 2.0)
    told, held = run(cell, colder, 0.5, 0.0), run(cell, true, 0.5, 0.0)
    assert told.taken_ah == pytest.approx(held.taken_ah, rel=0.06)


def test_a_discharge_that_stands_twice_is_fitted_as_one(catalogue: Catalogue) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    slow, fast, cold = drawn(cell, true, 0.2), drawn(cell, true, 1.0), drawn(cell, true, 0.5, 0.0)
    once, twice = (
        behaviour_of(sheet, catalogue.chemistry_of(sheet))
        for curves in ((slow, fast, cold), (slow, fast, fast, cold, cold))
        for sheet in [replace(cell, curves=curves)]
    )
    assert twice.fit is not None
    assert len(twice.fit.residual_v) == 5
    assert twice.steady_ohm == pytest.approx(once.steady_ohm, rel=1e-3)
    assert twice.lag_s == pytest.approx(once.lag_s, rel=0.02)
    assert twice.ohm_exponent == pytest.approx(once.ohm_exponent, rel=0.02)


def test_one_curve_gives_the_rest_voltage_and_leaves_the_rest(catalogue: Catalogue) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    sheet = replace(cell, curves=(drawn(cell, true, 0.2),))
    found, plain = (behaviour_of(item, catalogue.chemistry_of(item)) for item in (sheet, cell))
    assert found.fit is not None
    assert not found.fit.resistance_fitted
    assert found.steady_ohm == pytest.approx(plain.steady_ohm, rel=1e-3)
    assert found.lag_s == plain.lag_s
    charge = np.linspace(0.05, 0.95, 40)
    assert found.rest(charge) == pytest.approx(true.rest(charge), abs=0.04)


def test_without_a_curve_at_room_temperature_there_is_no_fit(catalogue: Catalogue) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    sheet = replace(cell, curves=(drawn(cell, true, 0.5, 0.0),))
    assert behaviour_of(sheet, catalogue.chemistry_of(sheet)).fit is None


@settings(max_examples=so_many(8, 12))
@given(st.integers(0, 1000), st.floats(0.0, 0.006), st.integers(12, 40))
def test_an_unsteady_hand_does_no_harm(
    catalogue: Catalogue, seed: int, shake_v: float, points: int
) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    draw = np.random.default_rng(seed)
    curves = []
    for rate in (0.2, 1.0, 2.0):
        neat = np.array(drawn(cell, true, rate).points)
        at = np.linspace(0.0, neat[-1, 0], points)
        volts = np.interp(at, *neat.T) + shake_v * draw.uniform(-1.0, 1.0, points)
        volts = np.minimum.accumulate(volts)
        curves.append(
            SheetCurve(
                current_a=rate * cell.capacity_typical_ah,
                points=tuple(zip(at.tolist(), volts.tolist(), strict=True)),
            )
        )
    sheet = replace(cell, curves=tuple(curves))
    found = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    assert np.all(np.diff(found.rest_v) >= -1e-9)
    assert np.all(np.diff(found.rest_charge) > 0.0)
    assert 0.5 * true.steady_ohm < found.steady_ohm < 2.0 * true.steady_ohm
    told, held = run(sheet, found, 1.5, 25.0), run(cell, true, 1.5, 25.0)
    assert told.taken_ah == pytest.approx(held.taken_ah, rel=0.05)
    assert told.delivered_wh == pytest.approx(held.delivered_wh, rel=0.06)
