"""A charge over time: its parts, what ends it, its band, what it costs."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import BodyWarmth, Groups
from lumvak.core.balancing.phase import COARSE, FINE
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.charging.to_full import FullSetting, charge_run, cost_of, with_band
from tests.straight import at, straight_cell, straight_groups

ROOM = BodyWarmth(2.0, 2000.0, 25.0)
USE = FullSetting(1.25, 12.6, 0.125, None, None, None, 3.0)


def test_parts_are_those_of_the_closed_form() -> None:
    still = BodyWarmth(1e-6, 1e6, 25.0)
    found = charge_run(straight_groups([2.5] * 3), at(0.0, 0.0, 0.0), USE, still)
    bulk, taper = found.parts
    assert (bulk.name, taper.name) == ("bulk", "taper")
    assert bulk.hours == pytest.approx(6900.0 / 3600.0, rel=1e-3)
    assert taper.hours == pytest.approx(690.8 / 3600.0, rel=5e-3)
    assert bulk.ah == pytest.approx(1.25 * 6900.0 / 3600.0, rel=1e-3)
    assert bulk.ah + taper.ah == pytest.approx(found.ah, rel=1e-3)
    assert found.ended_by == "charger"
    assert found.stops_share == pytest.approx(1.0 - 0.125 * 0.04 / 1.2, rel=1e-4)
    assert np.trapezoid(found.amps * found.volts, found.seconds) / 3600.0 == pytest.approx(
        found.wh, rel=1e-4
    )
    assert found.efficiency == pytest.approx(1.0 - found.heat_wh / found.wh)


@pytest.mark.parametrize(
    ("changed", "by"),
    [
        ({"timer_h": 0.5}, "timer"),
        ({"over_v": 4.1}, "board"),
        ({"hot_c": 25.05}, "temperature"),
        ({"turns_off": False}, "nobody"),
        ({"hold_v": None, "over_v": 4.25}, "board"),
    ],
)
def test_what_ends_a_charge_is_named(changed: dict[str, object], by: str) -> None:
    groups = straight_groups([2.5] * 3, ohm=0.1)
    found = charge_run(groups, at(0.2, 0.2, 0.3), replace(USE, **changed), ROOM)  # type: ignore[arg-type]
    assert found.ended_by == by
    if by == "timer":
        assert found.hours == pytest.approx(0.5)
    if "over_v" in changed:
        assert found.first == 3
        assert found.group_v[-1].max() == pytest.approx(changed["over_v"], abs=1e-4)


def test_a_very_low_group_is_charged_slowly_first() -> None:
    groups = straight_groups([2.5, 2.5])
    found = charge_run(groups, at(0.0, 0.1), replace(USE, hold_v=8.4, pre_v=3.05), ROOM)
    first = found.parts[0]
    assert first.name == "pre-charge"
    # To 3.05 V under a tenth of the current.
    assert first.ah == pytest.approx((0.05 - 0.125 * 0.04) / 1.2 * 2.5, rel=1e-3)
    assert first.hours == pytest.approx(first.ah / 0.125, rel=1e-3)
    assert found.amps[0] == pytest.approx(0.125)


def test_the_band_is_made_of_what_may_be_off() -> None:
    groups = straight_groups([2.5] * 2)
    use = replace(USE, hold_v=8.4)
    found = charge_run(groups, at(0.2, 0.2), use, ROOM)
    wide = with_band(found, groups, at(0.2, 0.2), use, ROOM, 0.05, 0.2)
    assert wide.band_v is not None and wide.band_h is not None and wide.band_a is not None
    assert (wide.band_v[0] <= wide.volts + 1e-9).all()
    assert (wide.band_v[1] >= wide.volts - 1e-9).all()
    assert (wide.band_a[0] >= 0.0).all()
    low, high = wide.band_h
    assert low < found.hours < high
    # The charger's amps alone, 5 % off, make the bulk a twentieth longer.
    assert high - found.hours > 0.04 * found.hours
    narrow = with_band(found, groups, at(0.2, 0.2), use, ROOM, 0.0, 0.0)
    assert narrow.band_h is not None
    assert narrow.band_h[1] < high


def test_lag_makes_a_charge_stop_earlier() -> None:
    groups = Groups(straight_cell(lag_s=90.0), np.full(2, 2.5), np.full(2, 0.04), np.zeros(2))
    quick = charge_run(straight_groups([2.5] * 2), at(0.2, 0.2), replace(USE, hold_v=8.4), ROOM)
    late = charge_run(groups, at(0.2, 0.2), replace(USE, hold_v=8.4), ROOM)
    # By the current at its end over the capacity, for 90 s.
    lag = 90.0 * 0.125 / 3600.0 / 2.5
    assert late.stops_share == pytest.approx(quick.stops_share - lag, abs=1e-5)


def test_a_charge_costs_what_the_mains_counts() -> None:
    assert cost_of(880.0, 0.88, 0.30) == pytest.approx(0.30)


@pytest.mark.parametrize("name", ["ostrel-21-48", "fennimor-26-33", "sollet-32-40", "rondel-b-20"])
def test_heat_is_that_of_a_run_by_other_means(catalogue: Catalogue, name: str) -> None:
    """Second by second, with a surface that lags, what is not held warms: within a hundredth."""
    cell = catalogue.cells[name]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    ah = cell.capacity_typical_ah * seen.capacity_scale
    amps, full_v, step_s = 0.5 * ah, cell.voltage_full_v, 2.0
    groups = Groups(seen, np.full(2, ah), np.full(2, seen.steady_ohm), np.zeros(2))
    charge, lagged_a, flows, heat_wh = 0.05, 0.0, amps, 0.0
    while flows >= 0.05 * amps:
        surface = charge + seen.lag_s / 3600.0 / ah * lagged_a
        ohm = seen.steady_ohm * float(seen.charge_factor(np.array(charge)))
        seen_v, held_v = groups.rest(np.array([surface, charge]))[0]
        flows = min(amps, (full_v - seen_v) / ohm)
        heat_wh += flows * (seen_v + ohm * flows - held_v) * step_s / 3600.0
        charge += flows * step_s / 3600.0 / ah
        lagged_a += (flows - lagged_a) * min(step_s / seen.lag_settles_s, 1.0)
    setting = FullSetting(amps, 2.0 * full_v, 0.05 * amps, None, None, None, 0.0)
    for grain in (FINE, COARSE):
        found = charge_run(
            groups, np.full(2, 0.05), setting, BodyWarmth(1e-6, 1e6, 25.0), None, grain
        )
        assert found.heat_wh == pytest.approx(2.0 * heat_wh, rel=0.01)
