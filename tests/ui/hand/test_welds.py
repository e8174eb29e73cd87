"""Test joints, one after the other, by keys; what they tell is said and handed on."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.figures.cures import cure_of
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.welds import WeldsView
from tests.ui.conftest import forget
from tests.ui.hand.conftest import view_of


@pytest.fixture
def welds(roller: Window) -> WeldsView:
    view = view_of(roller, "welds")
    assert isinstance(view, WeldsView)
    return view


def type_in(qtbot: QtBot, view: WeldsView, *texts: str) -> None:
    view.entry.setFocus()
    for text in texts:
        qtbot.keyClicks(view.entry, text)
        qtbot.keyClick(view.entry, Qt.Key.Key_Return)


def test_joints_are_read_by_keys_and_feed_the_network(
    qtbot: QtBot, roller: Window, welds: WeldsView
) -> None:
    assert "assumed" in welds.says.text()
    type_in(qtbot, welds, "0.1", "0.11 mohm", "0.0001 ohm", "0.09", "0.105")
    reads = roller.session.project.joints.weld_test.reads
    assert [read.mohm for read in reads] == pytest.approx([0.1, 0.11, 0.1, 0.09, 0.105])
    assert welds.which.text() == "joint 6"
    assert (
        roller.session.evaluation.laid_out.joined_pack.given.contact_mohm.number
        == pytest.approx(0.101)
    )
    assert "tested" in welds.says.text()
    assert "Worst of 168 joints" in welds.says.text()
    assert len(welds.plot.told().rows) == 5
    assert len(welds.table.rows_model.rows) == 5
    # One is read again, one is taken out, both taken back.
    welds.turn_to(2)
    type_in(qtbot, welds, "0.2")
    assert roller.session.project.joints.weld_test.reads[2].mohm == 0.2
    welds.turn_to(0)
    welds.out.click()
    assert len(roller.session.project.joints.weld_test.reads) == 4
    roller.session.undo_stack.undo()
    roller.session.undo_stack.undo()
    assert roller.session.project.joints.weld_test.reads == reads
    forget(roller)


def test_a_drop_wants_its_current(qtbot: QtBot, roller: Window, welds: WeldsView) -> None:
    welds.by.picked.emit("drop")
    assert welds.current.isVisible()
    type_in(qtbot, welds, "4.2 mV")
    assert "no current is given" in welds.problem.text()
    assert welds.entry.text() == "4.2 mV"
    roller.session.edit({"joints.weld_test.current_a": 20.0})
    qtbot.keyClick(welds.entry, Qt.Key.Key_Return)
    (read,) = roller.session.project.joints.weld_test.reads
    assert read.read_mohm == pytest.approx(0.21)
    assert not welds.problem.isVisibleTo(welds)
    type_in(qtbot, welds, "soon")
    assert "“soon”" in welds.problem.text()
    qtbot.keyClick(welds.entry, Qt.Key.Key_Escape)
    assert welds.entry.text() == ""
    forget(roller)


def test_a_pull_is_of_the_joint_in_hand_or_the_last(
    qtbot: QtBot, roller: Window, welds: WeldsView
) -> None:
    welds.pulled.picked.emit("torn")
    type_in(qtbot, welds, "0.1", "0.11")
    welds.pulled.picked.emit("clean")
    welds.turn_to(1)
    welds.pulled.picked.emit("torn")
    reads = roller.session.project.joints.weld_test.reads
    assert [read.pulled for read in reads] == ["torn", "torn", "clean"]
    stops = [item for item in roller.session.evaluation.findings if item.code == "weld-clean"]
    assert stops[0].severity == "stop"
    # What it is about is where the finding leads to.
    roller.stages["hand"].show_view("judge")  # type: ignore[attr-defined]
    roller.margin.findings.cured.emit(cure_of(stops[0]))
    assert welds.isVisible()
    forget(roller)
