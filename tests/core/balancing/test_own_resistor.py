"""Figures of the builder's resistor, by Ohm's law and by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.by_hand import bottom_plan
from lumvak.core.balancing.means import bled_over_v
from lumvak.core.balancing.own_resistor import bottom_figures, resistor_figures
from lumvak.core.document.charging import Module
from lumvak.core.figures.figure import typed
from tests.straight import at, straight_groups


def test_twenty_two_ohm_and_a_fifth_of_an_amp_hour() -> None:
    """4.15 V over 22 ohm: 0.189 A and 0.783 W; 0.3 Ah within 3 h want 41.5 ohm."""
    excess = typed("charging.excess_ah", "The fullest must lose", 0.3, "Ah")
    found = {
        item.key: item for item in resistor_figures(Module(ohm=22.0, from_v=4.15), 4.2, excess)
    }
    assert found["charging.resistor_a"].number == pytest.approx(4.15 / 22.0)
    assert found["charging.resistor_w"].number == pytest.approx(0.783, abs=5e-4)
    assert found["charging.resistor_rating_w"].number == pytest.approx(1.566, abs=1e-3)
    assert found["charging.most_ohm"].number == pytest.approx(41.5)
    volts = found["charging.resistor_a"].inputs[0]
    assert volts.origin == "typed"


@given(ceiling=st.floats(3.5, 4.3), ohm=st.floats(1.0, 1000.0))
def test_where_nobody_says_it_bleeds_a_little_under_the_limit(ceiling: float, ohm: float) -> None:
    nothing = typed("charging.excess_ah", "The fullest must lose", 0.0, "Ah")
    module = Module(ohm=ohm)
    found = list(resistor_figures(module, ceiling, nothing))
    keys = ("resistor_a", "resistor_w", "resistor_rating_w")
    assert [item.key for item in found] == [f"charging.{key}" for key in keys]
    assert found[0].inputs[0].origin == "assumed"
    assert 0.0 < ceiling - bled_over_v(module, ceiling) < 0.05
    assert found[1].number == pytest.approx(found[0].number ** 2 * ohm)


def test_at_the_bottom_the_load_draws_by_ohm() -> None:
    """2.7 of 3 Ah beside a full one: 4.08 V each, of the straight cell."""
    groups = straight_groups([3.0, 2.7, 3.0])
    plan = bottom_plan(groups, at(0.5, 0.5, 0.6), 3.0, 4.2, 5.0)
    known = typed("charging.group_ah", "Capacity of a group", 2.7, "Ah")
    full = typed("charge.voltage_v", "Charge voltage", 12.6, "V")
    found = {item.key: item for item in bottom_figures(plan, Module(ohm=5.0), full, known)}
    assert found["charging.bottom_pack_v"].number == pytest.approx(4.2 + 2 * 4.08)
    amps = found["charging.bottom_a"]
    volts, ohm = amps.inputs
    assert amps.number == pytest.approx(volts.number / ohm.number)
    assert found["charging.bottom_h"].number == pytest.approx(1.8 / amps.number)
    assert found["charging.bottom_stop_v"].number == pytest.approx(4.2)
