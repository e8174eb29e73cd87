"""Packs charged in parallel, against the closed form of a straight line and what is kept."""

import math

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.beside.charging_both import charged_apart, charged_together
from lumvak.core.beside.side import SideLimit
from tests.beside_pairs import straight

# A cell as a pack: 3.0 to 4.2 V straight, 2.5 Ah, 40 mΩ.
CELL = straight("cell", 3.0, 4.2, 2.5, 0.04, at=0.0)


def test_one_pack_by_the_worked_check() -> None:
    """1.25 A to 4.2 V: bulk ends at 95.83 % after 1 h 55 min; 690.8 s more to 0.125 A."""
    done = charged_together([CELL], 1.25, 4.2)
    held = np.searchsorted(done.volts, 4.2 - 1e-9)
    assert done.charge[held, 0] == pytest.approx(0.9583, abs=5e-4)
    assert done.seconds[held] == pytest.approx(6900.0, rel=1e-3)
    assert done.full_s[0] - done.seconds[held] == pytest.approx(690.8, rel=0.01)


def test_what_the_charger_gives_goes_into_both() -> None:
    other = replace(straight("other", 3.0, 4.2, 5.0, 0.03, at=0.1), name="other")
    done = charged_together([CELL, other], 2.0, 4.2)
    bulk = done.volts < 4.2 - 1e-9
    assert done.amps[bulk].sum(axis=1) == pytest.approx(2.0)
    taken = np.array([2.5, 5.0]) * (done.charge[-1] - done.charge[0])
    flowed = ((done.amps[1:] + done.amps[:-1]) / 2.0 * np.diff(done.seconds)[:, None]).sum(axis=0)
    assert flowed / 3600.0 == pytest.approx(taken, rel=2e-3)
    # Later the shares go by capacity, as their slopes are alike.
    assert done.amps[np.flatnonzero(bulk)[-1], 0] == pytest.approx(2.0 / 3.0, rel=0.01)


def test_the_one_with_less_charge_to_take_is_full_first_on_its_own() -> None:
    big = straight("big", 3.0, 4.2, 10.0, 0.02, at=0.0)
    small, large = charged_apart([CELL, big], [(1.25, 4.2), (1.25, 4.2)])
    assert small.hours < large.hours
    both = charged_together([CELL, big], 2.5, 4.2)
    assert both.first in (0, 1) and math.isfinite(both.hours)
    assert both.hours == pytest.approx(12.5 / 2.5, rel=0.15)


def test_what_a_part_takes_at_most_is_judged() -> None:
    tight = replace(CELL, limits=(SideLimit("BMS", 10.0, 1.0),))
    done = charged_together([tight], 1.25, 4.2)
    (part,) = done.carried
    assert part.when == "charging" and part.carries_a == pytest.approx(1.25) and not part.holds


def test_a_charger_for_fewer_never_fills_them() -> None:
    done = charged_together([replace(CELL, at=0.5)], 1.0, 3.0)
    assert math.isinf(done.full_s[0]) and done.charge[-1, 0] == pytest.approx(0.5)
    assert np.abs(done.amps).max() < 1e-9
