"""The pack of a project in trouble."""

import pytest
from msgspec.structs import replace

from lumvak.core.afterwards.in_trouble import (
    DOUBTED,
    as_trouble_reading,
    case_of_project,
    diagnosis_of,
    fits,
    known_readings,
)
from lumvak.core.document.afterwards.trouble import FaultReading
from lumvak.core.document.edit import with_values
from lumvak.core.document.proving import Proving
from lumvak.core.document.taps import TapTotal
from lumvak.core.evaluate import evaluate
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from tests.conftest import BARROW, DEMOS
from tests.proofs import reading

PARTS = load_catalogue()[0]
DINGHY = load_project(DEMOS / "mill-race-dinghy.lumvak.json", PARTS)


def test_the_salvaged_pack_that_jumps_has_good_cells_and_a_bad_bms() -> None:
    found = diagnosis_of(evaluate(DINGHY, PARTS))
    assert found is not None and len(found.readings) == 3
    assert found.ranked[0].cause.name == "bms-leaky" and found.ranked[0].share > 0.7
    assert found.courses[0].case.series == 14


def test_the_case_is_that_of_the_design() -> None:
    made = evaluate(load_project(BARROW, PARTS), PARTS)
    case = case_of_project(made)
    assert case.series == made.sized.choice.series
    assert case.load_a == pytest.approx(made.sized.pack.current.number)
    # Cells of 7 in parallel, and a path of some milliohm.
    assert 0.001 < case.group_ohm < 0.02 and 1e-5 < case.joint_ohm < 0.01
    assert diagnosis_of(made) is None


def test_readings_of_places_that_there_are_not_are_left_out() -> None:
    assert fits(FaultReading(place="group:14", value=3.7), 14)
    assert not fits(FaultReading(place="group:15", value=3.7), 14)
    assert not fits(FaultReading(place="groups", row=(3.7,) * 13), 14)
    reading = as_trouble_reading(FaultReading(place="groups", row=(3.7, 3.6), weight=0.3))
    assert reading.value == (3.7, 3.6) and reading.weight == 0.3


def test_groups_that_were_proven_count_with_their_date() -> None:
    readings = tuple(reading("groups", 3.7, f"group:{group}") for group in range(1, 15))
    project = with_values(DINGHY, {"balance_leads.totals": (TapTotal(lead=2, volts=7.4),)})
    project = replace(project, proving=Proving(readings=readings))
    row, total = known_readings(evaluate(project, PARTS))
    assert row.row == (3.7,) * 14 and row.weight == DOUBTED
    assert (total.place, total.value) == ("tap:2", 7.4)
    assert known_readings(evaluate(DINGHY, PARTS)) == ()
