import pytest
from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.files.kept.window_settings import load_settings, settings_path
from lumvak.ui.session import Session
from lumvak.ui.shell.moving import first_field
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.pages import Page, Split, Stack, StageHead, Views
from tests.ui.conftest import forget

CTRL_ALT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier


class Wide(QWidget):
    def sizeHint(self) -> QSize:
        return QSize(900, 700)

    def minimumSizeHint(self) -> QSize:
        return QSize(800, 600)


class Plain(Page):
    def show_evaluation(self, evaluation: Evaluation) -> None:
        self.setToolTip(evaluation.project.name)


def test_only_the_page_in_front_asks_for_room(qtbot: QtBot) -> None:
    stack = Stack()
    qtbot.addWidget(stack)
    assert stack.sizeHint() == QSize()
    small, wide = QWidget(), Wide()
    stack.addWidget(small)
    stack.addWidget(wide)
    assert stack.minimumSizeHint() == small.minimumSizeHint()
    stack.setCurrentWidget(wide)
    assert stack.sizeHint() == QSize(900, 700)
    assert stack.minimumSizeHint() == QSize(800, 600)


def test_a_view_is_made_when_it_is_first_opened_and_then_kept(
    qtbot: QtBot, session: Session
) -> None:
    views = Views(session, {"one": Plain, "two": Plain})
    qtbot.addWidget(views)
    assert not views.made
    first = views.open("one")
    assert list(views.made) == ["one"]
    assert views.open("two") is not first
    assert views.currentWidget() is views.made["two"]
    assert views.open("one") is first
    first.show_evaluation(session.evaluation)
    assert first.toolTip() == session.project.name
    # A page that links do not lead to stays as it is.
    first.show_path("pack.parallel")
    assert first.bench_field() is None


def test_the_head_of_a_stage_says_its_question(qtbot: QtBot) -> None:
    head = StageHead((("a", "first"), ("b", "second")), "View", views_below=True)
    qtbot.addWidget(head)
    head.say("Which BMS?", "4 of 99 serve")
    assert head.title.text() == "Which BMS?"
    assert head.about.text() == "4 of 99 serve"
    assert head.view.value == "a"


def test_the_line_between_panes_stays_where_it_was_left(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    split = window.findChildren(Split)
    table = next(
        item for item in split if item.orientation() == Qt.Orientation.Vertical and item.isVisible()
    )
    window.activateWindow()
    before = table.sizes()
    inner = first_field(table.widget(1) or table)
    assert inner is not None
    inner.setFocus()
    qtbot.keyClick(window, Qt.Key.Key_Up, CTRL_ALT)
    assert table.sizes()[0] < before[0]
    left = table.sizes()
    window.swap_sheet()
    again = next(
        item
        for item in window.findChildren(Split)
        if item.orientation() == Qt.Orientation.Vertical and item.isVisible()
    )
    assert again is not table
    share = left[0] / sum(left)
    # Once rows that flow have found their width.
    qtbot.waitUntil(lambda: abs(again.sizes()[0] / sum(again.sizes()) - share) < 0.01)
    forget(window)
    window.close()
    assert load_settings(settings_path())[0].splits["joints.table"][0] == pytest.approx(
        left[0], abs=3
    )
