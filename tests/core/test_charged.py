"""The steps of charging rest where nothing that they are given has changed."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.steps import Steps


def test_what_charging_hangs_on_runs_it_and_nothing_else_does(
    barrow: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    first = evaluate(barrow, catalogue, steps=steps)
    named = evaluate(with_values(barrow, {"name": "other"}), catalogue, steps=steps)
    assert named.charging is first.charging
    steps = Steps()
    first = evaluate(barrow, catalogue, steps=steps)
    groups = ({"share": 0.3},)
    changed = evaluate(with_values(barrow, {"charging.groups": groups}), catalogue, steps=steps)
    assert changed.charging is not first.charging
    assert changed.charging.setting is first.charging.setting
    assert "groups_now" in steps.ran and "run_of" not in steps.ran


def test_a_reading_of_a_charge_changes_nothing_of_how_it_is_charged(
    barrow: Project, catalogue: Catalogue
) -> None:
    steps = Steps()
    first = evaluate(barrow, catalogue, steps=steps)
    rows = ({"seconds": 0.0, "volts": 50.0},)
    read = evaluate(with_values(barrow, {"charging.log.rows": rows}), catalogue, steps=steps)
    assert read.charging is first.charging
    assert read.project.charging.log.rows
