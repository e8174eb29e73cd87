"""Every cause in every place, and the likely pairs."""

import numpy as np
import pytest

from lumvak.core.trouble.causes import CAUSES, COMPLAINTS
from lumvak.core.trouble.hypotheses import (
    PAIRS,
    conducts,
    places_in,
    places_of_pair,
    prior_of,
    rows_of,
    takes_charge,
)


@pytest.mark.parametrize("series", [3, 14, 20])
def test_rows_are_all_causes_in_all_places(series: int) -> None:
    rows = rows_of(series)
    singles = sum(len(places_in(it, series)) for it in CAUSES)
    pairs = sum(len(places_of_pair(one, two, series)) for one, two, _ in PAIRS)
    assert rows.count == singles + pairs
    assert rows.alone("group-weak").sum() == series
    assert rows.alone("joint-broken").sum() == series - 1
    for row in rows.at("tap-swapped", 0, 1, 99):
        assert rows.names[rows.cause[row]] == "tap-swapped" and rows.where[row] in (0, 1)


def test_a_second_cause_has_its_own_place_in_the_state() -> None:
    rows = rows_of(5)
    both = np.flatnonzero(rows.of("group-weak") & rows.of("connector-worn"))
    assert len(both) == 5
    assert set(rows.column("group-weak")[both]) == {2}
    assert set(rows.column("connector-worn")[both]) == {3}


@pytest.mark.parametrize("complaint", list(COMPLAINTS))
def test_priors_are_shares(complaint: str) -> None:
    rows = rows_of(10)
    share = prior_of(rows, complaint)  # type: ignore[arg-type]
    assert share.sum() == pytest.approx(1.0) and (share > 0.0).all()
    for state in ("rest", "load", "after", "charge"):
        on = conducts(rows, complaint, state, 3600.0)  # type: ignore[arg-type]
        assert ((on > 0.0) & (on < 1.0)).all()
    assert (takes_charge(rows, complaint) > 0.0).all()  # type: ignore[arg-type]


def test_a_latch_is_let_go_and_an_open_switch_is_not() -> None:
    rows = rows_of(4)
    on = conducts(rows, "dead", "after", 60.0)
    assert on[rows.of("bms-latched")][0] > 0.9 and on[rows.of("bms-open")][0] < 0.1
    cool = conducts(rows, "dead", "after", 3600.0)
    assert cool[rows.of("bms-temperature")][0] > on[rows.of("bms-temperature")][0]
