"""A sentence leads to the figures that it mentions, by mouse and by keys."""

from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from lumvak.core.said import Text, phrase, say
from lumvak.core.spelling import spoken
from lumvak.ui.session import Session
from lumvak.ui.widgets.sentence import Sentence


def told(qtbot: QtBot, session: Session, text: Text, *about: str) -> Sentence:
    sentence = Sentence(session)
    qtbot.addWidget(sentence)
    sentence.resize(600, 40)
    sentence.tell(text, about)
    sentence.show()
    return sentence


def test_a_number_is_reached_by_mouse_and_by_keys(qtbot: QtBot, session: Session) -> None:
    full, drop = session.evaluation.sized.pack.full, session.evaluation.figures["leads.drop_v"]
    first, lost = say(full.value, "V"), say(drop.number * 1e3, "mV")
    text = phrase("{} when full, {} in both leads", first, lost)
    sentence = told(qtbot, session, text, full.key, drop.key)
    assert sentence.text() == spoken(text)
    assert sentence.keys() == (full.key, drop.key)
    qtbot.mouseClick(sentence, Qt.MouseButton.LeftButton, pos=QPoint(6, 8))
    assert session.explained_key == full.key
    qtbot.keyClick(sentence, Qt.Key.Key_Right)
    assert session.explained_key == drop.key
    qtbot.keyClick(sentence, Qt.Key.Key_Left)
    qtbot.keyClick(sentence, Qt.Key.Key_Return)
    assert session.explained_key == full.key


def test_a_sentence_without_figures_asks_for_no_focus_and_wraps(
    qtbot: QtBot, session: Session
) -> None:
    sentence = told(qtbot, session, "Nothing on offer raises it. " * 6)
    assert sentence.keys() == ()
    assert sentence.focusPolicy() == Qt.FocusPolicy.NoFocus
    assert sentence.heightForWidth(200) > sentence.heightForWidth(1200)
    before = session.explained_key
    qtbot.mouseClick(sentence, Qt.MouseButton.LeftButton, pos=QPoint(6, 8))
    assert session.explained_key == before
