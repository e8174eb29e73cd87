"""Names come from elsewhere: what looks like markup is shown, not followed."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLabel

from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.words import tip

NAME = '<img src="file:///etc/hostname"><b>pack</b>'


def test_labels_show_plain_text_only(window: Window) -> None:
    window.session.edit({"name": NAME})
    for key in window.stages:
        window.open_stage(key)
    QApplication.processEvents()
    shown = [label for label in window.findChildren(QLabel) if NAME in label.text()]
    followed = [label for label in shown if label.textFormat() != Qt.TextFormat.PlainText]
    assert not followed
    window.session.tell("warn", NAME)
    assert window.notice.text.text() == NAME
    assert window.notice.text.textFormat() == Qt.TextFormat.PlainText


def test_a_tip_shows_markup_as_it_is() -> None:
    assert tip("14S7P") == "14S7P"
    assert tip(NAME) == (
        "<qt>&lt;img src=&quot;file:///etc/hostname&quot;&gt;&lt;b&gt;pack&lt;/b&gt;</qt>"
    )
