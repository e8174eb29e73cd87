"""Bayes by hand where that is possible."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.trouble.case import case_of
from lumvak.core.trouble.circuit import FaultyCircuit
from lumvak.core.trouble.posterior import along, begun, meter_v, seen_apart, updated
from lumvak.core.trouble.readings import TroubleReading
from lumvak.files.catalogue_file import load_catalogue

CASE = case_of(10, load_catalogue()[0].chemistries["nmc"])


def test_two_readings_in_either_order_are_the_same() -> None:
    pair = [TroubleReading("terminals", value="nothing"), TroubleReading("pack", value=37.4)]
    one, other = (list(along(CASE, "dead", it))[-1].share for it in (pair, pair[::-1]))
    assert one == pytest.approx(other, rel=1e-9)


def test_a_struck_reading_tells_nothing_and_a_doubted_one_less() -> None:
    reading = TroubleReading("terminals", value="jumps")
    bare = begun(CASE, "jumps").of("bms-leaky")
    whole, doubted, struck = (
        list(along(CASE, "jumps", [replace(reading, weight=it)]))[-1].of("bms-leaky")
        for it in (1.0, 0.3, 0.0)
    )
    assert bare < doubted < whole and struck == pytest.approx(bare)


def test_what_is_learnt_of_the_unknown_is_a_least_squares_fit() -> None:
    """One reading of a group: mean by the weights of prior and reading."""
    now = updated(begun(CASE, "none"), TroubleReading("group:3", value=3.9))
    row = int(np.flatnonzero(now.rows.alone("sound"))[0])
    off = float(meter_v(CASE, np.array([3.9]))[0]) ** 2 + 0.010**2
    prior = CASE.rest_off_v**2
    wanted = (CASE.rest_v / prior + 3.9 / off) / (1.0 / prior + 1.0 / off)
    assert now.state.mean[row, 0] == pytest.approx(wanted)
    assert now.state.spread[row, 0, 0] == pytest.approx(1.0 / (1.0 / prior + 1.0 / off))


def test_a_flat_group_is_seen_apart_and_in_a_sound_pack_none() -> None:
    now = begun(CASE, "low-group")
    seen = seen_apart(now, FaultyCircuit(CASE, now.rows, "low-group", "rest", 0.0), "group")
    flat = now.rows.at("group-flat", 7)[0]
    assert seen.share[flat] > 0.95 and seen.which[flat] == 7
    sound = int(np.flatnonzero(now.rows.alone("sound"))[0])
    assert seen.share[sound] < 0.02


def test_a_group_that_is_higher_is_not_flat() -> None:
    row = (4.0, *(3.7,) * 9)
    *_, now = along(CASE, "low-group", [TroubleReading("groups", value=row)])
    assert now.share[now.rows.at("group-flat", 1)].sum() < 0.01


def test_what_fits_nothing_is_something_else() -> None:
    row = tuple(3.2 + 0.09 * at * (-1) ** at for at in range(10))
    *_, now = along(CASE, "low-group", [TroubleReading("groups", value=row)])
    assert now.of("something-else") > 0.9
