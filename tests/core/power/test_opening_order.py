"""What opens first."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.power.opening_order import Curve, pair_of, time_ratio, unguarded
from lumvak.core.time_current import TIMES_S, Lump, lump_curve, stages_curve


def flat(key: str, kind: str, amps: float) -> Curve:
    level = np.full(TIMES_S.shape, amps)
    return Curve(key, key, kind, level, level)  # type: ignore[arg-type]


def test_pairs_tell_the_margin_and_from_when_they_fail() -> None:
    low, high = flat("load", "load", 20.0), flat("fuse", "fuse", 25.0)
    fine = pair_of(low, high, "", 500.0)
    assert fine.holds
    assert (fine.margin_a, fine.margin) == (pytest.approx(5.0), pytest.approx(0.25))
    falling = Curve("w", "w", "harm", 100.0 / np.sqrt(TIMES_S), 100.0 / np.sqrt(TIMES_S))
    wrong = pair_of(high, falling, "", 500.0)
    assert not wrong.holds
    # 100 / sqrt(t) = 25 at 16 s.
    assert wrong.fails_s[0][0] == pytest.approx(16.0, rel=1e-6)
    assert wrong.fails_s[-1][1] == TIMES_S[-1]
    # Out of order up to where they cross, the other way round.
    turned = pair_of(falling, high, "", 500.0)
    assert turned.fails_s[0][0] == TIMES_S[0]
    assert turned.fails_s[0][1] == pytest.approx(16.0, rel=1e-6)
    assert pair_of(high, falling, "", 0.5).holds, "no more can flow than short-circuit current"


@given(st.floats(1e-3, 0.5), st.floats(5.0, 500.0), st.floats(40.0, 200.0))
def test_a_board_guards_a_wire_until_the_time_of_the_closed_form(
    rise_per_a2: float, tau: float, allowed: float
) -> None:
    """A stage of 60 A lets 60 A pass for good; the wire is harmed at −τ·ln(1 − u ÷ (a·I²))."""
    trips = stages_curve([(60.0, 0.01)])
    harm = lump_curve(Lump(rise_per_a2, tau), allowed)
    pair = pair_of(
        Curve("board", "BMS", "board", trips, trips),
        Curve("leads", "leads", "harm", harm, harm),
        "",
        1e4,
        0.02,
    )
    steady = rise_per_a2 * 60.0**2
    if steady <= allowed * 1.001:
        assert pair.holds or steady > allowed * 0.999
        return
    harmed = -tau * math.log1p(-allowed / steady)
    if 0.05 < harmed < 5e3:
        # Between the times of the grid curves are straight in log-log.
        assert pair.fails_s[0][0] == pytest.approx(harmed, rel=0.02)


def test_how_much_sooner_one_curve_acts() -> None:
    quick = Curve("a", "a", "fuse", 10.0 / np.sqrt(TIMES_S), 10.0 / np.sqrt(TIMES_S))
    slow = Curve("b", "b", "harm", 30.0 / np.sqrt(TIMES_S), 30.0 / np.sqrt(TIMES_S))
    assert time_ratio(quick, slow, 1e9) == pytest.approx(9.0, rel=1e-6)


def test_what_a_lasting_overload_harms_before_anything_opens() -> None:
    trips = stages_curve([(40.0, 1.0)])
    board = Curve("board", "board", "board", trips, trips)
    fuse = Curve("fuse", "fuse", "fuse", np.full(TIMES_S.shape, 20.0), np.full(TIMES_S.shape, 27.0))

    def part(name: str, stands_a: float) -> Curve:
        harm = np.full(TIMES_S.shape, stands_a)
        return Curve(name, name, "harm", harm, harm)

    small, large, wire = part("plug", 25.0), part("leads", 30.0), part("wire", 1e6)
    assert unguarded((board, small, large, wire), 1000.0, 1e6) == ("leads", "plug")
    # The fuse guards what stands over 27 A, whatever the board does.
    assert unguarded((board, fuse, small, large, wire), 1000.0, 1e6) == ("plug",)
    # A pack of 5 Ah feeds 26 A for less than 12 min; what is harmed only later is not.
    slow = np.where(TIMES_S > 720.0, 25.0, 1e6)
    late = Curve("cells", "cells", "harm", slow, slow)
    assert unguarded((board, fuse, late), 1000.0, 1e6) == ("cells",)
    assert unguarded((board, fuse, late), 1000.0, 5.0) == ()
