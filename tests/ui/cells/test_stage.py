"""Cells and count through the window: ladder, refusals, limits, chart, side by side."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage


def in_hand(window: Window) -> tuple[str, int, int]:
    choice = window.session.evaluation.sized.choice
    return choice.cell.id, choice.series, choice.parallel


def test_forms_are_chosen_by_mouse_and_key_and_kept_for_new_projects(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    forms, session = cells.forms, window.session
    assert forms.value == ("18650", "21700", "26650", "32700")
    before = len(session.evaluation.sized.options)
    forms.setFocus()
    # From 18650, where the cursor stands, to pouch.
    for _ in range(4):
        qtbot.keyClick(forms, Qt.Key.Key_Right)
    qtbot.keyClick(forms, Qt.Key.Key_Space)
    assert session.project.pack.forms == ("18650", "21700", "26650", "32700", "pouch")
    assert len(session.evaluation.sized.options) > before
    assert {item.format for item in map(session.evaluation.sized.options.cell, range(before))}
    assert window.settings.forms == session.project.pack.forms
    qtbot.mouseClick(forms.words[0], Qt.MouseButton.LeftButton)
    assert "18650" not in session.project.pack.forms
    for form in ("21700", "26650", "32700"):
        qtbot.keyClick(forms, Qt.Key.Key_Right)
        qtbot.keyClick(forms, Qt.Key.Key_Space)
        assert form not in session.project.pack.forms
    # The last one cannot be turned over: nothing would be left to look at.
    qtbot.keyClick(forms, Qt.Key.Key_Right)
    qtbot.keyClick(forms, Qt.Key.Key_Space)
    assert session.project.pack.forms == ("pouch",)
    assert "pouch" in forms.value
    session.undo_stack.setClean()
    window.files.new()
    assert session.project.pack.forms == ("pouch",)


def test_weights_are_typed_and_the_ranking_tells_why(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    options, session = cells.options, window.session
    options.auto.click()
    options.which.picked.emit(2)
    field = options.weights["cost"]
    assert field.isVisible()
    assert field.edit.placeholderText() == "0.25"
    before = session.evaluation.sized.options.cost[0]
    field.edit.setText("5")
    field.commit()
    assert session.project.pack.weights.cost == 5.0
    assert session.evaluation.sized.options.cost[0] < before
    options.why.click()
    assert session.explained_key == "pack.score"
    assert "Counts against it" in window.margin.title.text()
    field.edit.setText("")
    field.commit()
    assert session.project.pack.weights.cost is None
    # One that ranks further down is told by which weight it would be first.
    there = session.evaluation.sized.options
    place = min(range(1, len(there)), key=lambda at: float(there.mass_kg[at]))
    options.ask_about(there.cell(place).id, int(there.series[place]), int(there.parallel[place]))
    text = options.ask.answer_text.text()
    assert f"ranks {place + 1} of {len(there)}" in text
    assert "first if" in text or "No one weight" in text
