"""What draws, and which of several loads counts."""

import pytest

from lumvak.core.document.loads import AMOUNTS, Appliance, Rail, bases_of, check_fed
from lumvak.core.record import Unfit
from lumvak.core.spelling import Refused, spoken


def test_what_is_given_says_what_counts() -> None:
    assert bases_of(["power_w", "distance_km"]) == {
        "load_basis": "power",
        "endurance_basis": "distance",
    }
    assert bases_of(["rated_voltage_v"]) == {}
    assert bases_of(["power_w", "current_a", "load_basis"]) == {}
    with pytest.raises(Refused) as found:
        bases_of(["power_w", "current_a"])
    assert "current_a and power_w are given" in spoken(found.value.said)
    assert {"current_a", "duty", "runtime_h", "energy_wh"} <= AMOUNTS


def test_what_is_fed_from_nothing_is_refused() -> None:
    rails = (Rail(name="12 V", volts=12.0),)
    lamp = Appliance(name="lamp", rail="12 V", amount=10.0, hours=2.0)
    check_fed(rails, (lamp,), "rails")
    for wrong, basis in (
        ((rails * 2, (lamp,)), "current"),
        ((rails, (Appliance(name="lamp", rail="5 V", amount=1.0, hours=1.0),)), "current"),
        ((rails, (Appliance(name="lamp", rail="12 V", amount=0.0, hours=1.0),)), "rails"),
    ):
        with pytest.raises(Unfit):
            check_fed(*wrong, basis)  # type: ignore[arg-type]
