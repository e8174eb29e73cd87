"""How fast a motor turns and a vehicle rolls without load."""

import math

import pytest

from lumvak.core.document.need import Need
from lumvak.core.figures.figure import typed
from lumvak.core.need.demand import demand_of
from lumvak.core.need.motor_speed import (
    motion_figures,
    no_load_rpm,
    pace_findings,
    pace_of,
    rolling_kmh,
    speed_words,
)
from lumvak.core.spelling import spoken


def test_a_wheel_rolls_its_circumference_a_turn() -> None:
    """By hand: 10 rpm/V at 48 V is 480 rpm; a 660 mm wheel rolls 2.073 m a turn, 59.7 km/h."""
    assert no_load_rpm(10.0, 48.0) == 480.0
    assert rolling_kmh(480.0, 660.0, 1.0) == pytest.approx(480 * 60 * math.pi * 0.66 / 1000)
    assert rolling_kmh(480.0, 660.0, 4.4) == pytest.approx(rolling_kmh(480.0, 660.0, 1.0) / 4.4)


def test_speeds_are_told_of_vehicles_whose_motor_is_known() -> None:
    full, nominal = typed("a", "full", 54.6, "V"), typed("b", "nominal", 46.8, "V")
    need = Need(kind="vehicle", motor_kv=10.0, wheel_mm=660.0)
    made = {item.key: item.number for item in motion_figures(need, full, nominal)}
    assert made["motion.full_rpm"] == pytest.approx(546.0)
    assert made["motion.nominal_kmh"] == pytest.approx(468 * 60 * math.pi * 0.66 / 1000)
    assert spoken(speed_words(need, 48.0)) == "60 km/h"
    assert spoken(speed_words(Need(kind="vehicle", motor_kv=10.0), 48.0)) == "480 rpm"
    assert speed_words(Need(kind="tool", motor_kv=10.0), 48.0) == ""
    assert motion_figures(Need(kind="vehicle"), full, nominal) == ()


@pytest.mark.parametrize(
    ("power_w", "wh_per_km", "kmh", "told"),
    [(600.0, 9.0, 66.7, True), (250.0, 10.0, 25.0, False), (20.0, 10.0, 2.0, True)],
)
def test_a_distance_tells_the_speed_it_means(
    power_w: float, wh_per_km: float, kmh: float, told: bool
) -> None:
    """600 W at 9 Wh/km go 67 km in an hour, whoever asks for 30 km."""
    need = Need(
        load_basis="power",
        power_w=power_w,
        efficiency=1.0,
        endurance_basis="distance",
        distance_km=30.0,
        consumption_wh_per_km=wh_per_km,
    )
    pace = pace_of(need, demand_of(need), typed("pack.voltage", "Nominal", 36.0, "V"))
    assert pace is not None and pace.number == pytest.approx(kmh, abs=0.05)
    found = list(pace_findings(need, pace))
    assert bool(found) == told
    assert not told or f"{kmh:.3g} km/h" in spoken(found[0].text)


def test_no_distance_means_no_speed() -> None:
    need = Need()
    assert pace_of(need, demand_of(need), typed("pack.voltage", "Nominal", 36.0, "V")) is None
