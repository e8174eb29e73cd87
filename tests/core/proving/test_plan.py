"""The plan: safety first, then what settles most for its time, and what can be done at all."""

from lumvak.core.document.proving import Proving
from lumvak.core.proving.plan import SAFETY, plan_of
from lumvak.core.proving.proof import TESTS, Prepared
from tests.proofs import reading

ALL = ("meter", "load", "supply", "thermometer", "charger")


def test_safety_first_then_what_settles_most(ready: Prepared) -> None:
    plan = plan_of(ready, Proving(), ALL)
    order = [item.test for item in plan]
    assert set(order) == set(TESTS) - {"surge"} and order[: len(SAFETY) - 1] == list(SAFETY)[:-1]
    settles = {item.test: item for item in plan}
    assert settles["full-discharge"].settles > 0.5 > settles["staircase"].settles
    assert settles["staircase"].settles_warm > 0.8 > settles["drops"].settles_warm


def test_what_is_lacking_comes_last(ready: Prepared) -> None:
    plan = plan_of(ready, Proving(), ("meter",))
    able = [not item.lacks for item in plan]
    assert able == sorted(able, reverse=True) and able.count(True) == 5
    lacks = {item.test: item.lacks for item in plan}
    assert lacks["staircase"] == ("load", "thermometer") and lacks["groups"] == ()


def test_what_was_measured_settles_no_more(ready: Prepared) -> None:
    taken = Proving(
        readings=(
            reading("full-discharge", 31.5, what="ah"),
            reading("full-discharge", 1590.0, what="wh"),
        )
    )
    item = next(it for it in plan_of(ready, taken, ALL) if it.test == "full-discharge")
    assert item.done and item.settles == 0.0
