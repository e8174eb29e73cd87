"""An old pack beside the new cells, within the evaluation: what is said, and when not to."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.dealing import compared, pool_in_hand
from lumvak.core.matching.readings import seats
from lumvak.core.spelling import spoken
from lumvak.files.project_file import load_project, parse_project, project_text, with_copies
from tests.conftest import DEMOS

GROUPS = [{"ah": 7.6 + 0.02 * place, "mohm": 19.0, "volts": 3.62} for place in range(12)]


@pytest.fixture
def roller(catalogue: Catalogue) -> Project:
    return load_project(DEMOS / "seed-bed-roller.lumvak.json", catalogue)


def beside(project: Project, groups: list[dict[str, float | None]], **more: object) -> Project:
    changes = {f"hand.old.{name}": value for name, value in more.items()}
    return with_values(project, {"hand.old.groups": tuple(groups), **changes})


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings if item.code.startswith("old-")}


def dealt(project: Project, catalogue: Catalogue) -> Project:
    """The project with its cells dealt beside the old pack."""
    evaluation = evaluate(project, catalogue)
    pool = pool_in_hand(
        project.hand,
        evaluation.sized.in_hand,
        evaluation.sized.choice.series,
        evaluation.sized.choice.parallel,
    )
    best = compared(pool, seed=1).best
    return with_values(project, {"hand.placed": seats(best.numbers(), project.hand.pins)})


def test_without_an_old_pack_nothing_is_said(roller: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(roller, catalogue)
    assert evaluation.beside.old is None
    assert not codes(evaluation)
    assert not [key for key in evaluation.figures if key.startswith("hand.old")]


def test_sums_match_and_the_current_is_shared(roller: Project, catalogue: Catalogue) -> None:
    project = dealt(beside(roller, GROUPS, parallel=3, years=1.0), catalogue)
    evaluation = evaluate(project, catalogue)
    assert not codes(evaluation)
    figures = evaluation.figures
    new = [group.ah for group in evaluation.sized.in_hand.groups]
    sums = [item["ah"] + (ah or 0.0) for item, ah in zip(GROUPS, new, strict=True)]
    assert figures["hand.old.weakest_ah"].number == pytest.approx(min(sums))
    assert figures["hand.old.spread"].number == pytest.approx(np.ptp(sums) / np.mean(sums))
    assert figures["hand.old.spread"].number < 2e-4
    # The new groups alone are as uneven as the old ones.
    assert figures["hand.spread"].number > 0.01
    first, least, most = evaluation.beside.shares
    assert (least <= first + 1e-12).all()
    assert (first <= most + 1e-12).all()
    ohm = evaluation.beside.old, evaluation.beside.new
    assert ohm[0] is not None
    assert ohm[1] is not None
    steady = ohm[0].ohm / ohm[1].ohm
    assert first == pytest.approx(1.0 / (1.0 + steady), rel=1e-6)
    assert evaluation.beside.course is not None
    given = evaluation.beside.course.hours[-1] * evaluation.sized.pack.current.number
    assert figures["hand.old.hours"].number == evaluation.beside.course.hours[-1]
    assert given <= min(sums) * ohm[1].kind.behaviour.capacity_scale
    assert given > 0.8 * min(sums)
    assert figures["hand.old.kept"].number == pytest.approx(
        7.6 / (3 * evaluation.sized.choice.cell.capacity_typical_ah)
    )
    assert not figures["hand.old.weakest_ah"].assumed


def test_what_is_not_known_is_assumed_and_said(roller: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(beside(roller, [{}] * 12), catalogue)
    assert codes(evaluation) == {"old-unread"}
    assert evaluation.figures["hand.old.weakest_ah"].assumed
    assert "hand.old.kept" not in evaluation.figures
    assert "hand.old.join_a" not in evaluation.figures


def test_when_not_to(roller: Project, catalogue: Catalogue) -> None:
    def told(groups: list[dict[str, float | None]], **more: object) -> set[str]:
        return codes(evaluate(beside(roller, groups, parallel=3, **more), catalogue))

    even: list[dict[str, float | None]] = [{"ah": 7.6, "mohm": 19.0, "volts": 3.62}] * 12
    unread = "old-unread"
    assert told(even, years=3.0) == {unread}
    assert told(even[:11]) == {"old-count"}
    assert told(even, years=3.1) == {unread, "old-years"}
    assert told([{**even[0], "ah": 6.0}] * 12) == {unread, "old-worn"}
    assert told([{**even[0], "mohm": 60.0}] * 12) == {unread, "old-resistance"}
    assert told([{**even[0], "mohm": 60.0}] * 12, ratio=3.5) == {unread}
    assert told([*even[:11], {**even[0], "ah": 7.0}]) == {unread, "old-uneven"}
    other = next(
        cell.id
        for cell in catalogue.cell_list
        if catalogue.chemistry_of(cell).family == "phosphate"
    )
    assert "old-chemistry" in told(even, cell=other)
    # Little is left for each where the load is high.
    hard = with_values(roller, {"need.current_a": 60.0, "need.peak_current_a": None})
    found = codes(evaluate(beside(hard, even, parallel=3), catalogue))
    assert {"old-overload", "old-new-overload"} <= found


def test_the_old_cells_bear_no_higher_charge(roller: Project, catalogue: Catalogue) -> None:
    low = next(
        cell
        for cell in catalogue.cell_list
        if cell.voltage_full_v == 4.2 and catalogue.chemistry_of(cell).family == "cobalt"
    )
    lower = replace(low, id="worn-18", name="Worn 18", voltage_full_v=4.1)
    parts = replace(roller.parts, cells=(*roller.parts.cells, lower))
    project = replace(roller, parts=parts)
    assert "old-full" in codes(evaluate(beside(project, GROUPS, cell="worn-18"), catalogue))
    below = with_values(project, {"pack.ceiling_v": 4.05})
    assert "old-full" not in codes(evaluate(beside(below, GROUPS, cell="worn-18"), catalogue))


def test_a_pair_apart_is_not_to_be_joined(roller: Project, catalogue: Catalogue) -> None:
    project = dealt(beside(roller, GROUPS, parallel=3), catalogue)
    groups = [{**item, "volts": 4.0} if place == 6 else item for place, item in enumerate(GROUPS)]
    evaluation = evaluate(beside(project, groups), catalogue)
    finding = next(item for item in evaluation.findings if item.code == "old-join")
    assert finding.severity == "stop"
    assert spoken(finding.text).startswith("Do not join group 7: ")
    assert spoken(finding.text).endswith("from the old into the new")
    assert "Stay with them" in spoken(finding.do)


def test_the_old_pack_is_kept_with_its_cell(roller: Project, catalogue: Catalogue) -> None:
    other = next(
        cell.id
        for cell in catalogue.cell_list
        if cell.id not in {item.id for item in roller.parts.cells}
    )
    project = with_copies(beside(roller, GROUPS, cell=other, years=2.5), catalogue)
    assert other in {cell.id for cell in project.parts.cells}
    again = parse_project(project_text(project), "here", catalogue)
    assert again.hand.old == project.hand.old
    with pytest.raises(ProjectError, match="Resistances apart at most"):
        beside(roller, GROUPS, ratio=0.5)
