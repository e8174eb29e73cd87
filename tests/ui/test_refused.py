"""What was typed and not taken waits in its field, and is taken with whatever makes it fit."""

from itertools import permutations
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox
from pytestqt.qtbot import QtBot

from lumvak.core.document.edit import ProjectError, value_at, with_values
from lumvak.core.document.project import Project
from lumvak.ui.refused import RefusedEntries, RefusedEntry
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.ui.conftest import forget

# Two fields of which one bounds the other, two values that hold together, and two more that hold
# only without those.
PAIRS = (
    ("need.stop_voltage_v", "need.rated_voltage_v", (30.0, 36.0), (40.0, 48.0)),
    ("need.rated_voltage_v", "need.max_voltage_v", (24.0, 30.0), (48.0, 60.0)),
    ("need.current_a", "need.peak_current_a", (10.0, 20.0), (30.0, 50.0)),
    ("need.coldest_c", "need.ambient_c", (-10.0, 5.0), (15.0, 30.0)),
    ("start.fast_s", "start.slow_s", (0.02, 0.5), (0.8, 2.0)),
    ("charging.floor_v", "pack.ceiling_v", (2.8, 3.3), (3.5, 4.1)),
)


def typed_into(project: Project, values: list[tuple[str, float]]) -> Project:
    """What a project is after these were typed one after the other, as a window takes them."""
    waiting = RefusedEntries()
    for path, value in values:
        try:
            taken = waiting.fitting(project, {path: value})
        except ProjectError:
            waiting.keep(RefusedEntry(path, "", "", str(value), "", value, True))
        else:
            project = with_values(project, taken)
            waiting.drop(*taken)
    assert not waiting.all
    return project


@pytest.mark.parametrize(("low", "high", "first", "then"), PAIRS)
def test_both_of_a_pair_are_taken_in_either_order(
    low: str, high: str, first: tuple[float, float], then: tuple[float, float]
) -> None:
    free = with_values(
        Project(),
        {"need.max_voltage_v": None, "need.stop_voltage_v": None, "need.peak_current_a": None},
    )
    for one, two in ((first, then), (then, first)):
        start = with_values(free, dict(zip((low, high), one, strict=True)))
        for order in permutations(zip((low, high), two, strict=True)):
            found = typed_into(start, list(order))
            assert (value_at(found, low), value_at(found, high)) == two


WINDOWS = st.lists(st.integers(5, 90), min_size=3, max_size=3, unique=True).map(sorted)


@given(WINDOWS, WINDOWS, st.permutations(["stop", "rated", "max"]))
def test_a_window_of_volts_is_taken_in_any_order(
    before: list[int], after: list[int], order: list[str]
) -> None:
    names = {name: f"need.{name}_voltage_v" for name in ("stop", "rated", "max")}
    start = with_values(
        Project(), {path: float(volts) for path, volts in zip(names.values(), before, strict=True)}
    )
    wanted = dict(zip(names, map(float, after), strict=True))
    found = typed_into(start, [(names[name], wanted[name]) for name in order])
    assert [value_at(found, path) for path in names.values()] == [*wanted.values()]


def field_of(window: Window, path: str) -> QuantityField:
    found = [
        it for it in window.stages[window.stage].findChildren(QuantityField) if it.path == path
    ]
    return next(it for it in found if it.isVisible())


def enter(qtbot: QtBot, field: QuantityField, text: str) -> None:
    field.edit.setFocus()
    field.edit.selectAll()
    qtbot.keyClicks(field.edit, text)
    qtbot.keyClick(field.edit, Qt.Key.Key_Return)


def volts(window: Window) -> tuple[float | None, ...]:
    need = window.session.project.need
    return need.rated_voltage_v, need.max_voltage_v, need.stop_voltage_v


def waiting_volts(window: Window, qtbot: QtBot) -> dict[str, QuantityField]:
    """The fields of the window of volts, with 33 and 40 typed into those of 48/60/39 V."""
    window.open_stage("need")
    window.session.edit(
        {
            "need.rated_voltage_v": 48.0,
            "need.max_voltage_v": 60.0,
            "need.stop_voltage_v": 39.0,
        }
    )
    fields = {name: field_of(window, f"need.{name}_voltage_v") for name in ("rated", "max", "stop")}
    enter(qtbot, fields["rated"], "33")
    enter(qtbot, fields["max"], "40")
    return fields


def test_what_is_refused_for_the_others_sake_is_taken_once_they_allow_it(
    window: Window, qtbot: QtBot
) -> None:
    fields = waiting_volts(window, qtbot)
    assert volts(window) == (48.0, 60.0, 39.0)
    assert fields["rated"].problem.isVisible() and fields["max"].problem.isVisible()
    line = next(it for it in window.build_line.entries if it.key == "need")
    assert (line.severity, line.answer) == ("warn", "several not taken")
    enter(qtbot, fields["stop"], "25")
    assert volts(window) == (33.0, 40.0, 25.0)
    assert not any(field.problem.isVisible() for field in fields.values())
    assert [field.edit.text() for field in fields.values()] == ["33 V", "40 V", "25 V"]
    assert not window.session.refused.all
    window.session.undo_stack.undo()
    assert volts(window) == (48.0, 60.0, 39.0)


def test_it_waits_over_changes_of_stage_and_sheet_until_it_is_escaped(
    window: Window, qtbot: QtBot
) -> None:
    waiting_volts(window, qtbot)
    window.open_stage("cells")
    assert "not taken" in next(it for it in window.build_line.entries if it.key == "need").answer
    window.swap_sheet()
    window.open_stage("need")
    field = field_of(window, "need.rated_voltage_v")
    assert field.edit.text() == "33" and field.problem.isVisible()
    field.edit.setFocus()
    qtbot.keyClick(field.edit, Qt.Key.Key_Escape)
    assert field.edit.text() == "48 V" and not field.problem.isVisible()
    assert [it.path for it in window.session.refused.all] == ["need.max_voltage_v"]
    window.swap_sheet()


def test_what_cannot_be_read_waits_as_well_and_is_no_number(window: Window, qtbot: QtBot) -> None:
    window.open_stage("need")
    field = field_of(window, "need.current_a")
    before = window.session.project.need.current_a
    enter(qtbot, field, "much")
    assert field.problem.isVisible()
    window.session.edit({"need.runtime_h": 1.25})
    assert field.edit.text() == "much" and window.session.project.need.current_a == before
    enter(qtbot, field, "12")
    assert window.session.project.need.current_a == 12.0 and not window.session.refused.all


def test_the_reason_follows_what_has_changed_meanwhile(window: Window, qtbot: QtBot) -> None:
    fields = waiting_volts(window, qtbot)
    assert "48" in fields["max"].problem.text()
    window.session.edit({"need.rated_voltage_v": 45.0})
    assert "45" in fields["max"].problem.text()


def test_saving_and_leaving_tell_of_it(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    waiting_volts(window, qtbot)
    window.open_stage("cells")
    assert window.files.save()
    assert "33" in window.notice.text.text() and "40" in window.notice.text.text()
    window.files.sought.emit("need", "need.max_voltage_v")
    assert window.stage == "need" and field_of(window, "need.max_voltage_v").edit.hasFocus()
    asked = []
    monkeypatch.setattr(QMessageBox, "exec", lambda box: asked.append(box.text()))
    monkeypatch.setattr(QMessageBox, "clickedButton", lambda box: None)
    assert not window.files.may_leave()
    assert "33" in asked[0] and "No file holds that" in asked[0]


def test_another_project_has_none_of_it(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    waiting_volts(window, qtbot)
    forget(window)
    window.session.start(Project(), None)
    assert not window.session.refused.all
