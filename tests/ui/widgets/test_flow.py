"""Widgets that flow: one line where it fits, more where it does not, none lost."""

from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.widgets.flow import flowing


def test_a_line_goes_on_in_the_next(qtbot: QtBot) -> None:
    page = QWidget()
    qtbot.addWidget(page)
    labels = [QLabel(f"a label of some length {place}") for place in range(6)]
    row = flowing(*labels)
    outer = QVBoxLayout(page)
    outer.addWidget(row)
    outer.addStretch(1)
    page.resize(2000, 300)
    page.show()
    qtbot.waitExposed(page)
    assert len({label.y() for label in labels}) == 1
    page.resize(400, 300)
    qtbot.waitUntil(lambda: len({label.y() for label in labels}) > 2)
    assert all(label.geometry().right() <= row.width() for label in labels)
    assert row.height() >= labels[-1].geometry().bottom()
    # What is hidden takes no room.
    for label in labels[1:]:
        label.hide()
    qtbot.waitUntil(lambda: row.minimumHeight() <= labels[0].height() + 2)
