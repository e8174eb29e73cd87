"""Readings of tests are kept as they were taken, and nothing else is accepted."""

import pytest

from lumvak.core.checked import made
from lumvak.core.document.project import Project
from lumvak.core.document.proving import CountedAttempt, Proving
from lumvak.core.record import Unfit
from lumvak.core.spelling import Refused
from tests.proofs import reading


def test_a_place_is_one_of_the_pack() -> None:
    good = {"test": "groups", "place": "group:3", "value": 3.7}
    project = made(Project, {"proving": {"readings": [good]}})
    assert project.proving.readings[0].attempt == 1
    for wrong in ({"place": "group:0"}, {"place": "moon"}, {"value": 1e9}, {"test": "luck"}):
        with pytest.raises(Refused):
            made(Project, {"proving": {"readings": [{**good, **wrong}]}})


def test_only_an_attempt_that_was_made_can_count() -> None:
    one = reading("groups", 3.7, "group:1")
    Proving(readings=(one,), counts=(CountedAttempt(test="groups", attempt=1),)).check()
    Proving(readings=(one,), counts=(CountedAttempt(test="groups", attempt=0),)).check()
    with pytest.raises(Unfit, match="no attempt 2"):
        Proving(readings=(one,), counts=(CountedAttempt(test="groups", attempt=2),)).check()
    twice = (CountedAttempt(test="groups", attempt=1),) * 2
    with pytest.raises(Unfit, match="twice"):
        Proving(readings=(one,), counts=twice).check()
