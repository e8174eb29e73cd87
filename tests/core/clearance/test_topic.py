"""What is said of metal that lies too near, as the builder sees it."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken


def codes(evaluation: Evaluation) -> dict[str, str]:
    return {item.code: item.severity for item in evaluation.findings}


def test_demos_are_clear_and_count_their_rings(
    catalogue: Catalogue, demos: dict[str, Project]
) -> None:
    for project in demos.values():
        evaluation = evaluate(project, catalogue)
        assert not evaluation.laid_out.clearance.flaws
        closest, least = (
            evaluation.figures[key] for key in ("clearance.closest_mm", "joints.least_mm")
        )
        assert closest.value is None or closest.number >= least.number - 1e-3
        if evaluation.sized.choice.cell.diameter_mm is not None:
            assert evaluation.figures["clearance.rings"].number == len(
                evaluation.laid_out.joined_pack.layout
            )


def test_wide_strips_are_told_as_shorts_where_they_lie(
    barrow: Project, catalogue: Catalogue
) -> None:
    wide = {"joints.group.part": "nickel-0.2x15", "joints.group.width_mm": 30.0}
    evaluation = evaluate(with_values(barrow, wide), catalogue)
    assert codes(evaluation)["metal-touches"] == "stop"
    flaw = evaluation.laid_out.clearance.flaws[0]
    assert "a short of" in spoken(flaw.text) and flaw.face in (0, 1)
    layout = evaluation.laid_out.joined_pack.layout
    assert layout.x_mm.min() - 30 < flaw.x_mm < layout.x_mm.max() + 30
    # A barrier under what crosses makes it a thing to be laid first.
    over = evaluate(with_values(barrow, {**wide, "joints.barrier_mm": 0.25}), catalogue)
    assert codes(over)["metal-touches"] == "warn"
    assert "Lay the barrier of 0.25 mm first" in spoken(
        next(item.do for item in over.findings if item.code == "metal-touches")
    )


@pytest.mark.parametrize("least", [8.0, 20.0])
def test_a_larger_least_distance_narrows_what_is_proposed(
    barrow: Project, catalogue: Catalogue, least: float
) -> None:
    usual = evaluate(with_values(barrow, {"joints.group": {}, "joints.series": {}}), catalogue)
    far = evaluate(
        with_values(barrow, {"joints.least_mm": least, "joints.group": {}, "joints.series": {}}),
        catalogue,
    )
    assert far.laid_out.group.setting.widths.group_mm < usual.laid_out.group.setting.widths.group_mm
    if least < 10.0:
        assert not far.laid_out.clearance.flaws
    else:
        # Whole ends are nearer than that: it is said.
        assert codes(far)["metal-near"] == "warn"
