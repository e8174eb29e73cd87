"""The window's own line."""

from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.notice import Notice


def test_a_line_is_said_acted_on_and_closed(qtbot: QtBot) -> None:
    notice, done = Notice(), []
    qtbot.addWidget(notice)
    assert notice.isHidden()
    notice.say("warn", "The disk is full.", (("try again", lambda: done.append("again")),))
    assert not notice.isHidden() and notice.accessibleName() == "warn: The disk is full."
    again, _ = notice.findChildren(QPushButton)
    again.click()
    assert done == ["again"] and notice.isHidden()
    notice.say("stop", "Another.")
    # Those of the line before go with it.
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    (close,) = notice.findChildren(QPushButton)
    assert close.text() == "close"
    close.click()
    assert notice.isHidden()
