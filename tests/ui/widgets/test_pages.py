from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.widgets.pages import Page, Stack, StageHead, Views


class Wide(QWidget):
    def sizeHint(self) -> QSize:
        return QSize(900, 700)

    def minimumSizeHint(self) -> QSize:
        return QSize(800, 600)


class Plain(Page):
    def show_evaluation(self, seen: Evaluation) -> None:
        self.setToolTip(seen.project.name)


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
    first.show_link("pack.parallel")


def test_the_head_of_a_stage_says_its_question(qtbot: QtBot) -> None:
    head = StageHead((("a", "first"), ("b", "second")), "View", views_below=True)
    qtbot.addWidget(head)
    head.say("Which board?", "4 of 99 serve")
    assert head.title.text() == "Which board?"
    assert head.about.text() == "4 of 99 serve"
    assert head.view.value == "a"
