"""Plans for repair, and why not."""

import pytest

from lumvak.core.afterwards.repair import TESTS, repair_of
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken
from lumvak.core.trouble.causes import BY_NAME, CAUSES
from lumvak.core.trouble.diagnosis import RankedCause, place_of
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS

PARTS = load_catalogue()[0]


@pytest.fixture(scope="module")
def dinghy() -> Evaluation:
    return evaluate(load_project(DEMOS / "mill-race-dinghy.lumvak.json", PARTS), PARTS)


def plan(evaluation: Evaluation, name: str, where: int = 0) -> str:
    cause = BY_NAME[name]
    made = repair_of(evaluation, RankedCause(cause, place_of(cause, where), 1.0))
    return " ".join(spoken(it) for it in made.steps)


def test_a_bms_is_replaced_by_one_that_fits_lead_by_lead(dinghy: Evaluation) -> None:
    said = plan(dinghy, "bms-leaky")
    assert "What fits this pack: Wicket 14-" in said
    assert "balance plug off first" in said and "the plug last" in said


def test_a_group_says_what_must_match(dinghy: Evaluation) -> None:
    said = plan(dinghy, "group-weak", 3)
    assert "Group 3: 4 cells" in said and "within 10 mV" in said
    flat = plan(dinghy, "group-flat", 3)
    assert "Charge group 3 alone" in flat and "never one that rested under 2 V" in flat


def test_what_was_shorted_inside_is_never_revived(dinghy: Evaluation) -> None:
    cause = BY_NAME["group-shorted"]
    made = repair_of(dinghy, RankedCause(cause, "group:2", 1.0))
    assert not made.may and made.tests == () and "never revived" in spoken(made.steps[0])


def test_every_cause_has_a_plan_or_why_not(dinghy: Evaluation) -> None:
    for cause in CAUSES:
        made = repair_of(dinghy, RankedCause(cause, place_of(cause, 1), 1.0))
        assert made.steps
        if made.may and cause.name != "something-else":
            assert cause.name.partition("-")[0] in TESTS, cause.name
