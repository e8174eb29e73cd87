"""What there is to notice about room and places, one by one."""

import pytest

from lumvak.core.arrangement.findings import BARRIERS, MOST_TOLD, barrier_for, flaw_findings
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding
from lumvak.core.spelling import spoken


def found(project: Project, catalogue: Catalogue, code: str) -> Finding | None:
    return next((item for item in evaluate(project, catalogue).findings if item.code == code), None)


def test_a_barrier_is_stiff_where_a_touch_is_no_longer_safe() -> None:
    assert barrier_for(TOUCH_SAFE_V) == BARRIERS[0]
    assert barrier_for(TOUCH_SAFE_V + 0.1) == BARRIERS[1]


def test_a_room_too_small_stops_and_names_its_length(barrow: Project, catalogue: Catalogue) -> None:
    small = {
        "arrangement.room.kind": "box",
        "arrangement.room.length_mm": 40.0,
        "arrangement.room.width_mm": 40.0,
    }
    item = found(with_values(barrow, small), catalogue, "does-not-fit")
    assert item is not None
    assert (item.severity, item.stage, item.figure) == ("stop", "arrangement", "layout.length_mm")
    wide = {**small, "arrangement.room.length_mm": 900.0, "arrangement.room.width_mm": 900.0}
    assert found(with_values(barrow, wide), catalogue, "does-not-fit") is None


def test_cans_are_told_of_where_they_differ_by_more_than_was_set(
    barrow: Project, catalogue: Catalogue
) -> None:
    never = found(with_values(barrow, {"arrangement.barrier_v": 60.0}), catalogue, "barriers")
    assert never is None
    item = found(with_values(barrow, {"arrangement.barrier_v": 1.0}), catalogue, "barriers")
    assert item is not None
    evaluation = evaluate(with_values(barrow, {"arrangement.barrier_v": 1.0}), catalogue)
    assert spoken(item.text).startswith(f"{len(evaluation.laid_out.barriers.pairs)} pairs")
    worst = float(evaluation.laid_out.barriers.volts.max())
    assert barrier_for(worst) in spoken(item.do)
    assert item.severity == ("warn" if worst > TOUCH_SAFE_V else "note")


def test_wrapper_on_wrapper_is_a_note(barrow: Project, catalogue: Catalogue) -> None:
    tight = with_values(barrow, {"arrangement.pitch_mm": None, "joints.gap_mm": 0.0})
    assert found(tight, catalogue, "no-gap") is not None
    apart = with_values(barrow, {"arrangement.pitch_mm": None, "joints.gap_mm": 1.0})
    assert found(apart, catalogue, "no-gap") is None


@pytest.mark.parametrize("count", [1, 2, 3, 4, 9])
def test_of_many_flaws_of_a_kind_the_first_are_named_and_the_rest_counted(count: int) -> None:
    flaws = [
        Flaw("overlap", f"cell {place} lies in another", "Move it.", 0.0, 0.0)
        for place in range(count)
    ]
    (item,) = flaw_findings(flaws, "arrangement")
    assert item.text == flaws[0].text
    for place in range(1, min(count, MOST_TOLD)):
        assert flaws[place].text in spoken(item.why)
    more = count - MOST_TOLD
    assert (f"{more} more" in spoken(item.why)) == (more > 0)


def test_every_kind_of_flaw_is_a_finding_of_its_own() -> None:
    flaws = [
        Flaw("overlap", "one", "do", 0.0, 0.0),
        Flaw("outside", "two", "do", 0.0, 0.0),
        Flaw("overlap", "three", "do", 0.0, 0.0),
    ]
    assert {item.code for item in flaw_findings(flaws, "arrangement")} == {"overlap", "outside"}
