"""The reading that tells most."""

import math

import numpy as np
import pytest

from lumvak.core.trouble.case import case_of
from lumvak.core.trouble.posterior import along, begun
from lumvak.core.trouble.proposing import as_reading, gained, proposals
from lumvak.core.trouble.readings import TroubleReading
from lumvak.files.catalogue_file import load_catalogue

CASE = case_of(12, load_catalogue()[0].chemistries["nmc"])


def test_nothing_tells_more_than_what_is_open() -> None:
    now = begun(CASE, "dead")
    share = now.share[now.share > 0.0]
    whole = float(-(share * np.log2(share)).sum())
    for it in proposals(now):
        assert 0.0 <= it.bits <= whole
        assert it.worth == pytest.approx(it.bits / math.sqrt(it.weight))


def test_the_fuse_is_worth_a_look_where_nothing_comes_out_and_not_where_it_does() -> None:
    dead = gained(begun(CASE, "dead"), "fuse", "rest", 0.0, True)
    low = gained(begun(CASE, "low-group"), "fuse", "rest", 0.0, True)
    assert dead > 0.3 > low


def test_what_cannot_be_reached_is_not_asked_for() -> None:
    now = begun(CASE, "low-group")
    places = {it.place for it in proposals(now, without=("shown", "groups"))}
    assert not places & {"shown", "groups"} and places
    taken = {("shown", "rest", 0.0)}
    assert ("shown", "rest", 0.0) not in {
        (it.place, it.state, it.amount) for it in proposals(now, (), taken)
    }


def test_once_it_is_known_nothing_tells_more() -> None:
    row = tuple(3.1 if at == 4 else 3.7 for at in range(12))
    *_, now = along(CASE, "low-group", [TroubleReading("groups", value=row)])
    assert max(it.bits for it in proposals(now)) < 0.5
    first = proposals(now)[0]
    assert as_reading(first).place == first.place


def test_no_reading_bridges_anything_and_none_is_asked_for_twice() -> None:
    asked = [(it.place, it.state, it.amount, it.in_ohm) for it in proposals(begun(CASE, "dead"))]
    assert not any("bridge" in place for place, *_ in asked)
    assert len(asked) == len(set(asked))
