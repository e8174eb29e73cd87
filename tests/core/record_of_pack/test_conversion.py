"""An old tool and its new pack, against numbers worked by hand."""

import pytest

from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.record_of_pack.conversion import (
    contacts_said,
    is_conversion,
    plastic_said,
    rows_of,
    thread_of,
)
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from tests.conftest import TRIMMER

PARTS = load_catalogue()[0]


@pytest.fixture(scope="module")
def trimmer() -> Project:
    return load_project(TRIMMER, PARTS)


def test_both_packs_side_by_side(trimmer: Project) -> None:
    made = evaluate(trimmer, PARTS)
    assert is_conversion(made)
    rows = {it.what: it for it in rows_of(made)}
    energy = rows["energy"]
    assert energy.old is not None and energy.old.number == pytest.approx(18.0 * 1.7)
    ratio = rows["capacity"].ratio
    assert ratio is not None and ratio.number == pytest.approx(7.5 / 1.7)
    assert ratio.inputs[1].key == "need.replaced_capacity_ah"
    hours = rows["run time"]
    assert hours.old is not None and hours.old.inputs[1].key == "demand.mean_current_a"
    assert hours.old.number == pytest.approx(1.7 / hours.old.inputs[1].number)
    # Five cells of 4.2 V where the old charger stopped at 21.6 V.
    full = rows["volts when full"].ratio
    assert full is not None and full.number == pytest.approx(21.0 / 21.6)


def test_what_nobody_said_stays_open(trimmer: Project) -> None:
    bare = {f"need.replaced_{it}": None for it in ("voltage_v", "capacity_ah", "mass_kg", "cost")}
    rows = {it.what: it for it in rows_of(evaluate(with_values(trimmer, bare), PARTS))}
    assert rows["rated volts"].old is not None and rows["rated volts"].old.number == 18.0
    for name in ("capacity", "energy", "run time", "mass", "cost"):
        assert rows[name].old is None and rows[name].ratio is None
        assert rows[name].new is not None


def test_the_thread_goes_through_the_stages(trimmer: Project) -> None:
    steps = {it.what: it for it in thread_of(evaluate(trimmer, PARTS))}
    stages = "need cells arrangement arrangement need power charging"
    assert [it.stage for it in steps.values()] == stages.split()
    assert steps["its charger"].standing == "stop"
    assert "is for nickel and is never plugged in" in spoken(steps["its charger"].answer)
    assert steps["plastic that goes"].standing == "done"
    assert "21 V, where the tool stood 21.6 V before" in spoken(steps["volts when full"].answer)


def test_a_step_waits_for_what_is_not_known(trimmer: Project) -> None:
    open_ = with_values(
        trimmer,
        {"need.contacts": None, "arrangement.room.kind": "none", "record.built": None},
    )
    steps = {it.what: it for it in thread_of(evaluate(open_, PARTS))}
    for what in ("contacts", "room in the housing", "plastic that goes"):
        assert steps[what].standing == "to do"
    assert "without a wire" in spoken(contacts_said(3))


def test_cells_that_are_longer_say_what_goes(trimmer: Project) -> None:
    """18 mm wide cells of 65 mm where sub-C cells of 43 mm were."""
    said = spoken(plastic_said(evaluate(trimmer, PARTS)))
    assert "15 cells" in said and "stand 22 mm higher" in said and "Latch" in said


def test_a_vehicle_is_no_conversion() -> None:
    assert not is_conversion(evaluate(Project(), PARTS))
