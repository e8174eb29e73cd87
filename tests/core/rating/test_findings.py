"""What there is to notice about the rating of the whole path."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.rating.findings import joints_rating_findings, stall_findings
from lumvak.core.spelling import spoken
from lumvak.ui.speech import say


def test_a_stall_is_cut_off_by_the_last_stage_that_it_passes(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    evaluation = evaluate(demos["trimmer"], catalogue)
    board = evaluation.board
    assert board is not None
    need = evaluation.project.need
    for stage in board.board.stages:
        stall = replace(need, kind="tool", stall_current_a=stage.current_a + 0.1)
        (item,) = stall_findings(stall, board, evaluation.path.links)
        assert item.code == "stall-cut"
        assert say(stage.delay_s, "s") in spoken(item.text)
    under = replace(need, kind="tool", stall_current_a=0.1)
    assert not list(stall_findings(under, board, evaluation.path.links))
    # Only a tool stalls, and without a board nothing is said of it.
    vehicle = replace(under, kind="vehicle", stall_current_a=900.0)
    assert not list(stall_findings(vehicle, board, evaluation.path.links))
    assert not list(stall_findings(under, None, evaluation.path.links))


def test_a_stall_that_nothing_cuts_off_warns_where_a_link_is_weaker(evaluation: Evaluation) -> None:
    board = evaluation.board
    assert board is not None
    first = board.board.stages[0].current_a
    need = replace(evaluation.project.need, kind="tool", stall_current_a=first - 0.1)
    weak = tuple(replace(link, peak_a=first / 2.0) for link in evaluation.path.links)
    (item,) = stall_findings(need, board, weak)
    assert (item.code, item.severity) == ("stall-not-cut", "warn")
    strong = tuple(replace(link, peak_a=first * 2.0) for link in evaluation.path.links)
    assert not list(stall_findings(need, board, strong))


def test_joints_are_named_where_the_cells_could_give_a_tenth_more(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(barrow, {"need.current_a": 20.0}), catalogue)
    joints = next(link for link in evaluation.path.links if link.stage == "joints")
    cells = evaluation.path.links[0]
    for share, told in ((1.0, False), (1.05, False), (1.2, True)):
        chain = (replace(cells, continuous_a=share * joints.continuous_a), joints)
        found = [item.code for item in joints_rating_findings(chain, joints)]
        assert found == (["joints-set-rating"] if told else [])
    assert not list(joints_rating_findings(evaluation.path.links, None))
    assert not list(joints_rating_findings((cells, cells), cells))
