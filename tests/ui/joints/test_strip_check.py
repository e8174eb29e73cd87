"""The strip checker: what a reading says of the metal."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.making import MakingView


def test_a_reading_is_typed_and_judged(qtbot: QtBot, making: MakingView, session: Session) -> None:
    making.show_page("check")
    checker = making.strip_check
    assert checker.verdict.text() == "Enter what the meter reads."
    assert not checker.resistivity.isVisibleTo(checker)
    field = checker.checks[0]
    field.edit.setFocus()
    qtbot.keyClicks(field.edit, "11.6 mohm")
    qtbot.keyClick(field.edit, Qt.Key.Key_Return)
    assert checker.verdict.text().startswith("Pure nickel")
    assert checker.resistivity.isVisibleTo(checker)
    shown = session.figure("check.resistivity")
    making_set = session.project.making
    area = making_set.check_width_mm * making_set.check_thickness_mm
    # In nΩ·m: R A / l.
    expected = 11.6e-3 * (area * 1e-6) / (making_set.check_length_mm * 1e-3) * 1e9
    assert shown is not None
    assert abs(shown.number - expected) < 1e-6 * expected
    session.edit({"making.check_mohm": 40.0})
    assert not checker.verdict.text().startswith("Pure nickel")
