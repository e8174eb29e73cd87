"""What is kept of charging, and what is refused."""

import pytest

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.checked import made
from lumvak.core.document.charging import ChargeLog, Charging, LogRow
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"charging.charger": "none-such"}, "no charger is called"),
        ({"charging.start": 1.2}, "Charged from"),
        ({"charging.module.ohm": 0.0}, "Resistor"),
        ({"charging.mover.efficiency": 1.2}, "Of it arrives"),
        ({"charging.groups": ({"ah": -1.0},)}, "Capacity"),
        (
            {
                "charging.log.rows": (
                    {"seconds": 10.0, "volts": 40.0},
                    {"seconds": 5.0, "volts": 40.1},
                )
            },
            "times that run forward",
        ),
    ],
)
def test_what_cannot_be_is_named(changes: dict[str, object], says: str) -> None:
    with pytest.raises(ProjectError, match=says):
        with_values(Project(), changes)


def test_chargers_are_kept_once() -> None:
    one = Charger(id="one", volts=42.0, amps=2.0)
    kept = Charging(chargers=(one,), charger="one")
    assert kept.charger == "one"
    with pytest.raises(ValueError, match="one is there twice"):
        made(Charging, {"chargers": (one, one)})


def test_a_log_runs_forward() -> None:
    rows = (LogRow(seconds=0.0, volts=40.0), LogRow(seconds=0.0, volts=40.0))
    with pytest.raises(ValueError, match="reading 2 is at 0 s, the one before it at 0 s"):
        made(ChargeLog, {"rows": rows})
