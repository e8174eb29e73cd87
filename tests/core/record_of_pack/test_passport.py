"""A passport says what the evaluation says, and begins a project that is marked as a claim."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.proving import Proving
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.passport import passport_of, project_of, rounded
from tests.proofs import reading


def test_its_numbers_are_those_of_the_design(designed: Evaluation) -> None:
    passport = passport_of(designed)
    choice = designed.sized.choice
    assert (passport.series, passport.parallel) == (choice.series, choice.parallel)
    assert passport.full_v == pytest.approx(choice.series * choice.cell.voltage_full_v, rel=1e-3)
    least = min(link.continuous_a for link in designed.path.links)
    assert passport.continuous_a == pytest.approx(least, rel=1e-3)
    assert passport.capacity_is == "designed" and passport.standing == "assumed"
    assert not passport.modified and passport.measured is None


def test_what_was_measured_takes_the_place_of_the_design(
    designed: Evaluation, catalogue: Catalogue
) -> None:
    readings = (
        reading("full-discharge", 17.3, "pack", "ah", taken="2026-05-30 10:00:00"),
        reading("full-discharge", 620.0, "pack", "wh", taken="2026-05-31 11:00:00"),
    )
    project = with_values(designed.project, {"proving": Proving(readings=readings)})
    passport = passport_of(evaluate(project, catalogue))
    assert (passport.capacity_ah, passport.capacity_is) == (17.3, "measured")
    assert passport.standing == "partly measured" and passport.measured == "2026-05-31"


def test_a_project_from_it_carries_the_claim(designed: Evaluation, catalogue: Catalogue) -> None:
    passport = passport_of(designed)
    project = project_of(passport, catalogue)
    assert project.record.claimed == (passport,) and project.name == "Orchard barrow"
    assert (project.pack.series, project.pack.parallel) == (passport.series, passport.parallel)
    assert project.pack.cell == designed.sized.choice.cell.id
    unknown = project_of(replace(passport, cell="Nobody's 18"), catalogue)
    assert unknown.pack.cell is None


def test_numbers_have_four_figures() -> None:
    assert rounded(12345.6) == 12350.0 and rounded(0.0123456) == 0.01235
    assert rounded(None) is None and rounded(float("inf")) is None and rounded(0.0) == 0.0
