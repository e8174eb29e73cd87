"""What each fault says of each place, worked by hand."""

import numpy as np
import pytest

from lumvak.core.trouble.case import case_of
from lumvak.core.trouble.circuit import FaultyCircuit, expected_at, state_of_case
from lumvak.core.trouble.hypotheses import rows_of
from lumvak.files.catalogue_file import load_catalogue

CASE = case_of(10, load_catalogue()[0].chemistries["nmc"])
ROWS = rows_of(10)
STATE = state_of_case(CASE, ROWS)


def volts(circuit: FaultyCircuit, kind: str, number: int = 0) -> np.ndarray:
    wanted = expected_at(circuit, kind, number)
    return np.asarray((wanted.line * STATE.mean).sum(axis=1) + wanted.more)


def sound() -> int:
    return int(np.flatnonzero(ROWS.alone("sound"))[0])


def test_a_sound_pack_is_ohms_law() -> None:
    rest = FaultyCircuit(CASE, ROWS, "none", "rest", 0.0)
    assert volts(rest, "pack")[sound()] == pytest.approx(10 * CASE.rest_v)
    assert volts(rest, "tap", 4)[sound()] == pytest.approx(4 * CASE.rest_v)
    load = FaultyCircuit(CASE, ROWS, "none", "load", 10.0)
    drop = 10.0 * (10 * CASE.group_ohm + 9 * CASE.joint_ohm)
    assert volts(load, "pack")[sound()] == pytest.approx(10 * CASE.rest_v - drop)
    assert volts(load, "terminals")[sound()] == pytest.approx(
        10 * CASE.rest_v - drop - 30.0 * CASE.part_ohm
    )
    assert volts(load, "joint", 3)[sound()] == pytest.approx(10.0 * CASE.joint_ohm)


def test_a_flat_group_is_seen_where_it_is_and_in_the_whole() -> None:
    rest = FaultyCircuit(CASE, ROWS, "low-group", "rest", 0.0)
    (row,) = [it for it in ROWS.at("group-flat", 4) if ROWS.second[it] < 0]
    low = -float(STATE.mean[row, 2])
    assert 0.5 < low < 1.2
    assert volts(rest, "group", 4)[row] == pytest.approx(CASE.rest_v - low)
    assert volts(rest, "group", 5)[row] == pytest.approx(CASE.rest_v)
    assert volts(rest, "tap", 3)[row] == pytest.approx(3 * CASE.rest_v)
    assert volts(rest, "pack")[row] == pytest.approx(10 * CASE.rest_v - low)


def test_swapped_leads_read_two_groups_one_backwards_and_two() -> None:
    rest = FaultyCircuit(CASE, ROWS, "since-repair", "rest", 0.0)
    (row,) = ROWS.at("tap-swapped", 4)
    read = [volts(rest, "group", it)[row] / CASE.rest_v for it in (3, 4, 5, 6, 7)]
    assert read == pytest.approx([1.0, 2.0, -1.0, 2.0, 1.0])
    assert volts(rest, "tap", 4)[row] == pytest.approx(5 * CASE.rest_v)


def test_an_open_lead_and_a_broken_connection_read_nothing() -> None:
    rest = FaultyCircuit(CASE, ROWS, "dead", "rest", 0.0)
    (lead,), (joint,) = ROWS.at("tap-open", 3), ROWS.at("joint-broken", 3)
    for number in (3, 4):
        assert expected_at(rest, "group", number).nothing[lead] > 0.5
    assert expected_at(rest, "group", 5).nothing[lead] == 0.0
    assert expected_at(rest, "tap", 3).nothing[joint] == 0.0
    assert expected_at(rest, "tap", 4).nothing[joint] > 0.5
    assert expected_at(rest, "joint", 3, in_ohm=True).nothing[joint] > 0.5


def test_across_an_open_bms_lies_the_whole_pack_once_something_draws() -> None:
    load = FaultyCircuit(CASE, ROWS, "dead", "load", 10.0)
    opened = int(np.flatnonzero(ROWS.alone("bms-open"))[0])
    fuse = int(np.flatnonzero(ROWS.alone("fuse-open"))[0])
    assert volts(load, "bms")[opened] == pytest.approx(10 * CASE.rest_v)
    assert volts(load, "bms")[fuse] == pytest.approx(0.0, abs=0.1)
    assert volts(load, "fuse")[fuse] == pytest.approx(10 * CASE.rest_v)


def test_a_blocked_charge_leaves_the_charger_alone() -> None:
    charge = FaultyCircuit(CASE, ROWS, "no-charge", "charge", 2.0)
    cold = int(np.flatnonzero(ROWS.alone("thermistor-open"))[0])
    assert volts(charge, "terminals")[cold] == pytest.approx(CASE.charger_v)
    assert volts(charge, "bms")[cold] == pytest.approx(CASE.charger_v - 10 * CASE.rest_v)


def test_what_leaks_falls_in_a_day_and_a_flat_group_does_not() -> None:
    now, later = (FaultyCircuit(CASE, ROWS, "low-group", "after", it) for it in (60.0, 86_400.0))
    for name, falls in (("group-leaking", 0.08), ("group-flat", 0.0)):
        row = ROWS.at(name, 2)[0]
        fallen = volts(now, "group", 2)[row] - volts(later, "group", 2)[row]
        assert fallen == pytest.approx(falls, abs=1e-3)
