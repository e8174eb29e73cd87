"""Joints tested on scrap: what they read, what the pack's are taken as, what is told."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.joints import WeldRead, WeldTest
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import walk
from lumvak.core.joints.contacts import reads_of

EVEN = (0.10, 0.11, 0.09, 0.105, 0.095, 0.10)


def with_reads(project: Project, reads: list[dict[str, object]], **more: object) -> Project:
    test = {"reads": tuple(reads), **more}
    return with_values(project, {"joints.weld_test": made(WeldTest, test)})


def read(*mohm: float) -> list[dict[str, object]]:
    return [{"mohm": value} for value in mohm]


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings if item.code.startswith("weld-")}


def test_a_drop_at_a_current_is_a_resistance() -> None:
    test = WeldTest(
        reads=(WeldRead(drop_mv=4.2, current_a=20.0), WeldRead(mohm=0.2), WeldRead(pulled="torn"))
    )
    assert reads_of(test) == pytest.approx([0.21, 0.2])


def test_nothing_is_said_where_nothing_was_tested(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    assert codes(evaluation) == set()
    assert "joints.weld_test.spread" not in evaluation.figures
    assert evaluation.figures["joints.contact_mohm"].origin == "assumed"


def test_tests_take_the_place_of_what_was_assumed(barrow: Project, catalogue: Catalogue) -> None:
    plain = evaluate(barrow, catalogue)
    evaluation = evaluate(with_reads(barrow, read(*(10.0 * mohm for mohm in EVEN))), catalogue)
    contact = evaluation.laid_out.joined_pack.given.contact_mohm
    assert contact.number == pytest.approx(10.0 * np.mean(EVEN))
    assert not contact.assumed
    assert any(part.origin == "measured" for part in walk((contact,)))
    assert plain.laid_out.network is not None
    assert evaluation.laid_out.network is not None
    assert evaluation.laid_out.network.joint_ohm.number > plain.laid_out.network.joint_ohm.number
    # What the builder typed stands.
    said = with_values(with_reads(barrow, read(*EVEN)), {"joints.contact_mohm": 0.4})
    assert evaluate(said, catalogue).laid_out.joined_pack.given.contact_mohm.number == 0.4


def test_other_points_are_reckoned_over(barrow: Project, catalogue: Catalogue) -> None:
    points = barrow.joints.weld_points
    evaluation = evaluate(with_reads(barrow, read(*EVEN), points=2 * points), catalogue)
    assert evaluation.figures["joints.contact_mohm"].number == pytest.approx(2.0 * np.mean(EVEN))
    soldered = with_values(
        with_reads(barrow, read(*EVEN), points=2 * points), {"joints.joining": "solder"}
    )
    figure = evaluate(soldered, catalogue).figures["joints.contact_mohm"]
    assert figure.number == pytest.approx(np.mean(EVEN))


def test_the_worst_joint_is_that_of_one_more_of_so_many(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_reads(barrow, read(*EVEN)), catalogue)
    joints = 2 * evaluation.sized.choice.series * evaluation.sized.choice.parallel
    out = stats.t.isf(1.0 / (joints + 1.0), len(EVEN) - 1) * math.sqrt(1.0 + 1.0 / len(EVEN))
    worst = evaluation.figures["joints.weld_test.worst_mohm"]
    assert worst.number == pytest.approx(np.mean(EVEN) + out * np.std(EVEN, ddof=1))
    rise = evaluation.figures["joints.weld_test.worst_k"]
    cell_a = evaluation.figures["network.busiest_cell_a"].number
    assert rise.number == pytest.approx(
        cell_a**2 * worst.number * 1e-3 * evaluation.figures["joints.weld_k_per_w"].number
    )
    # Strips with a bridge have it once, however the joints differ.
    tabs = evaluate(
        with_values(with_reads(barrow, read(*EVEN)), {"joints.side_a": "tabs"}), catalogue
    )
    more = tabs.figures["joints.weld_test.worst_mohm"].number - worst.number
    assert more == pytest.approx(tabs.figures["joints.bridge_mohm"].number)


@pytest.mark.parametrize(
    ("reads", "found"),
    [
        (read(*EVEN), set()),
        (read(0.1, 0.1, 0.11), {"weld-few"}),
        (read(0.1, 0.16, 0.1, 0.06, 0.1, 0.14), {"weld-uneven"}),
        (read(0.1, 0.1, 0.1, 0.1, 0.1, 0.35), {"weld-off"}),
        ([*read(*EVEN), {"pulled": "clean"}, {"pulled": "torn"}], {"weld-clean"}),
        ([{"pulled": "torn"}], set()),
        ([{"mohm": 0.1, "pulled": "torn"}], {"weld-few"}),
        (read(*(400.0 * mohm for mohm in EVEN)), {"weld-hot"}),
    ],
)
def test_what_tests_tell_is_said(
    barrow: Project, catalogue: Catalogue, reads: list[dict[str, object]], found: set[str]
) -> None:
    assert codes(evaluate(with_reads(barrow, reads), catalogue)) == found


@given(st.lists(st.floats(0.01, 5.0), min_size=2, max_size=30))
def test_the_worst_is_never_better_than_the_mean(reads: list[float]) -> None:
    from lumvak.core.figures.figure import assumed, computed
    from lumvak.core.joints.contacts import MEAN, scrap_topic

    mean = assumed(MEAN, "", float(np.mean(reads)), "mΩ", "", "")
    contact = computed("joints.contact_mohm", "", mean.number, "mΩ", "", "", mean)
    test = WeldTest(reads=tuple(WeldRead(mohm=value) for value in reads))
    figures = scrap_topic(test, contact, 100, None, mean, 20.0).figures
    assert figures[1].number >= contact.number


@pytest.mark.parametrize(
    ("reads", "told"),
    [
        ([{}], "accepted: a resistance"),
        ([{"drop_mv": 3.0}], "accepted: a current beside it"),
        ([{"mohm": -1.0}], "Test joint reads"),
    ],
)
def test_what_says_nothing_is_refused(
    barrow: Project, reads: list[dict[str, object]], told: str
) -> None:
    with pytest.raises(ProjectError, match=told):
        with_values(barrow, {"joints.weld_test.reads": tuple(reads)})
