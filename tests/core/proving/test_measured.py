"""What readings come to, worked out by hand beside it."""

import math

import pytest

from lumvak.core.document.proving import CountedAttempt, Proving
from lumvak.core.proving.measured import attempt_of, counted, measured, off_of, pair_off
from tests.proofs import reading


def of(*readings, **rest):  # type: ignore[no-untyped-def]
    return measured(Proving(readings=readings, **rest))


def test_a_staircase_is_a_regression_through_the_origin() -> None:
    """Two levels: 10 A drops 0.5 V, 20 A drops 1.1 V: (10·0.5 + 20·1.1) ÷ (10² + 20²)."""
    found = of(
        reading("staircase", 49.5, amps=10.0, at_s=600.0, by="meter"),
        reading("staircase", 49.3, "terminals", amps=10.0, at_s=600.0, by="meter"),
        reading("staircase", 50.0, amps=0.0, at_s=610.0, by="meter"),
        reading("staircase", 48.7, amps=20.0, at_s=1210.0, by="meter"),
        reading("staircase", 48.3, "terminals", amps=20.0, at_s=1210.0, by="meter"),
        reading("staircase", 80.0, "strip", "celsius", at_s=1210.0),
        reading("staircase", 40.0, "cells", "celsius", at_s=1210.0),
        reading("staircase", 25.0, "air", "celsius", at_s=1210.0),
        reading("staircase", 49.8, amps=0.0, at_s=1220.0, by="meter"),
    )
    assert found["staircase.pack_mohm"].value == pytest.approx(54.0)
    assert found["staircase.path_mohm"].value == pytest.approx(20.0)
    assert found["staircase.strip_k"].value == 40.0 and found["staircase.cells_k"].value == 15.0
    assert "staircase.leads_k" not in found
    # The standard error of the slope: rests of 40 and −20 mV over the root of Σ I².
    assert found["staircase.pack_mohm"].off == pytest.approx(
        1e3 * ((0.04**2 + 0.02**2) / 500.0) ** 0.5, rel=0.01
    )


def test_warmth_lies_on_a_line_against_the_square_of_the_current() -> None:
    """Three levels, 0.02 K/A² over cells that show 1.5 K too little: 8 K at 20 A."""
    readings = []
    for amps in (0.0, 10.0, 15.0, 20.0):
        rise = 1.5 + 0.02 * amps * amps
        readings += [
            reading("staircase", 30.0 + rise, "strip", "celsius", amps=amps, at_s=60.0 * amps),
            reading("staircase", 30.0, "cells", "celsius", amps=amps, at_s=60.0 * amps),
        ]
    assert of(*readings)["staircase.strip_k"].value == pytest.approx(8.0)
    warm = of(*readings[2:])["staircase.strip_k"]
    # Nobody read them while cool, so that the offset cannot be told; it says so.
    assert warm.value != pytest.approx(8.0, rel=0.01)
    assert warm.off > 2.0 * of(*readings)["staircase.strip_k"].off


def test_what_comes_back_is_told_by_three_readings() -> None:
    """0.6 V at once, then 0.4 V with 20 s, after 20 A."""

    def back(seconds: float) -> float:
        return 50.0 - 0.4 * math.exp(-seconds / 20.0)

    found = of(
        reading("staircase", 49.0, amps=20.0, at_s=600.0, by="meter"),
        *(
            reading("staircase", back(after), amps=0.0, at_s=600.0 + after, by="meter")
            for after in (10.0, 40.0, 70.0)
        ),
    )
    assert found["staircase.eased_s"].value == pytest.approx(20.0)
    assert found["staircase.eased_mohm"].value == pytest.approx(50.0 * (back(70.0) - back(10.0)))
    # The first of them alone belongs to the resistance.
    assert found["staircase.pack_mohm"].value == pytest.approx(50.0 * (back(10.0) - 49.0))


def test_drops_by_part_and_the_worst_joint() -> None:
    found = of(
        reading("drops", 0.04, "bms", amps=20.0),
        reading("drops", 0.02, "joint:1", amps=20.0),
        reading("drops", 0.02, "joint:2", amps=20.0),
        reading("drops", 0.08, "joint:3", amps=20.0),
    )
    assert found["drops.bms_mohm"].value == pytest.approx(2.0)
    assert found["drops.joint_mohm"].value == pytest.approx(2.0)
    assert found["drops.worst"].value == pytest.approx(4.0)
    assert "drops.fuse_mohm" not in found


def test_a_trip_lies_between_what_flowed_and_what_did_not() -> None:
    found = of(
        reading("over-current", 58.0, "bms", "amps", amps=58.0),
        reading("over-current", 59.0, "bms", "amps", amps=59.0),
        reading("over-current", 0.0, "bms", "amps", amps=60.0),
    )
    assert found["over-current.trip_a"].value == pytest.approx(59.5)
    assert not of(reading("over-current", 58.0, "bms", "amps", amps=58.0))


@pytest.mark.parametrize(("test", "value"), [("over-voltage", 4.26), ("under-voltage", 4.2)])
def test_the_group_that_opened_it(test: str, value: float) -> None:
    volts = [reading(test, it, f"group:{at}", amps=1.0) for at, it in ((1, 4.2), (2, 4.26))]  # type: ignore[arg-type]
    opened = reading(test, 0.0, "bms", "amps")  # type: ignore[arg-type]
    assert of(*volts, opened)[f"{test}.trip_v"].value == value
    assert not of(*volts)


def test_sums_spreads_and_losses() -> None:
    week = 7 * 86_400.0
    found = of(
        reading("groups", 3.7, "group:1"),
        reading("groups", 3.6, "group:2"),
        reading("total", 3.7, "group:1"),
        reading("total", 3.6, "group:2"),
        reading("total", 7.31),
        reading("insulation", -0.02, "case"),
        reading("asleep", 0.1, "terminals"),
        reading("asleep", 50.0, "terminals"),
        reading("charger-stop", 58.1, "charger"),
        reading("charger-stop", 57.9, "charger"),
        reading("full-charge", 4.2, "group:1"),
        reading("full-charge", 4.15, "group:2"),
        reading("full-discharge", 30.0, what="ah"),
        reading("full-discharge", 1500.0, what="wh"),
        reading("full-discharge", 50.0, "cells", "celsius"),
        reading("full-discharge", 20.0, "air", "celsius"),
        reading("surge", 80.0, what="amps"),
        reading("surge", 40.0, "leads", "amps"),
        reading("self-discharge", 4.1, "group:1", at_s=0.0),
        reading("self-discharge", 4.093, "group:1", at_s=week),
        reading("self-discharge", 4.1, "group:2", at_s=0.0),
        reading("self-discharge", 4.03, "group:2", at_s=week),
    )
    values = {key: round(it.value, 6) for key, it in found.items()}
    assert values == {
        "insulation.case_v": 0.02,
        "asleep.output_v": 0.1,
        "groups.spread_v": 0.1,
        "total.difference_v": -0.01,
        "full-charge.spread_v": 0.05,
        "charger-stop.stop_v": 58.1,
        "full-discharge.ah": 30.0,
        "full-discharge.wh": 1500.0,
        "full-discharge.warm_k": 30.0,
        "self-discharge.mv_day": 10.0,
        "surge.peak_a": 80.0,
    }


def test_the_last_attempt_counts_or_the_one_that_was_chosen() -> None:
    readings = (
        reading("groups", 3.7, "group:1"),
        reading("groups", 3.6, "group:2"),
        reading("groups", 3.7, "group:1", attempt=2),
        reading("groups", 3.69, "group:2", attempt=2),
    )
    last = Proving(readings=readings)
    assert attempt_of(last, "groups") == 2 and len(counted(last, "groups")) == 2
    assert measured(last)["groups.spread_v"].value == pytest.approx(0.01)
    first = Proving(readings=readings, counts=(CountedAttempt(test="groups", attempt=1),))
    assert measured(first)["groups.spread_v"].value == pytest.approx(0.1)
    none = Proving(readings=readings, counts=(CountedAttempt(test="groups", attempt=0),))
    assert not measured(none)


def test_what_one_meter_is_off_by_in_both_drops_out() -> None:
    one, other = (reading("total", volts, by="meter", off=0.016) for volts in (50.0, 49.5))
    apart = reading("total", 49.5, by="another", off=0.016)
    assert pair_off(one, other) < 0.3 * pair_off(one, apart)
    assert off_of(reading("total", 20.0, what="celsius")) > 0.0
