"""Each failure of a board has its own code, and goes when the right thing changes."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from tests.core.power.failures import Failure, codes, each, told_and_cured

FAILURES: tuple[Failure, ...] = (
    ("board-start", "trimmer", {}, {"power.surge": "moor-0.08"}),
    ("board-start", "trimmer", {}, {"protection.board": "wicket-5-30"}),
    ("board-start", "trimmer", {}, {"start.spin_up_s": 0.3}),
    ("board-peak", "barrow", {"need.peak_current_a": 70.0, "protection.board": "wicket-14-30"},
     {"protection.board": "wicket-14-45"}),
    ("board-continuous", "barrow", {"need.current_a": 33.0, "protection.board": "wicket-14-30"},
     {"protection.board": None}),
    ("board-feeds", "barrow", {"protection.board": "gate-14-60-two-port", "protection.feeds": True},
     {"protection.feeds": False}),
    ("board-least-short", "trimmer", {"leads.area_mm2": 0.5, "leads.length_m": 20.0},
     {"leads.length_m": 0.3}),
    ("board-kind", "trimmer", {"protection.board": "turnpike-5"}, {"protection.board": None}),
)  # fmt: skip


@each(FAILURES)
def test_a_failure_is_told_and_goes_when_it_is_cured(
    failure: Failure, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    told_and_cured(failure, demos, catalogue)


def test_a_board_with_three_for_two_contacts_is_told(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    made = replace(catalogue.boards["wicket-5-30"], id="own", ports=2)
    parts = replace(demos["trimmer"].parts, boards=(made,))
    project = replace(demos["trimmer"], parts=parts)
    project = with_values(project, {"protection.board": "own"})
    assert "board-ports" in codes(evaluate(project, catalogue))
    three = with_values(project, {"need.contacts": 3})
    assert "board-ports" not in codes(evaluate(three, catalogue))


def test_without_a_fuse_a_short_that_the_board_need_not_see_stops(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    long = with_values(demos["trimmer"], {"leads.area_mm2": 0.5, "leads.length_m": 20.0})
    for fuse, severity in (("none", "stop"), (next(iter(catalogue.fuses)), "warn")):
        evaluation = evaluate(with_values(long, {"power.fuse": fuse}), catalogue)
        told = next(item for item in evaluation.findings if item.code == "board-least-short")
        assert told.severity == severity
        board = evaluation.power.board
        assert board is not None
        lowest = min(stage.current_a for stage in board.stages if stage.delay_s <= 5.0)
        assert lowest > evaluation.power.short_least_a.number
