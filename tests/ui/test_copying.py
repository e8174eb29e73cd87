"""What the clipboard gets: rows that a sheet of calculation takes, pictures that are drawings."""

from xml.etree import ElementTree

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QContextMenuEvent, QGuiApplication
from PyQt6.QtWidgets import QApplication, QLabel, QMenu
from pytestqt.qtbot import QtBot

from lumvak.ui.copying import SVG, as_tsv, copy_picture, copy_rows, rows_of, source_of
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.plots import Plot
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.told import Told

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def clipped() -> str:
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    return clipboard.text()


def conductors(window: Window) -> RowsTable:
    window.open_stage("joints")
    window.stages["joints"].show_view("conductors")
    table = window.stages["joints"].findChild(RowsTable, "joints.series.part")
    assert isinstance(table, RowsTable)
    return table


def test_cells_are_parted_by_tabs_and_hold_none() -> None:
    told = Told("it", ("a", "b"), [("1\t2", "3\n4"), ("", "5")])
    assert as_tsv(told) == "a\tb\n1 2\t3 4\n\t5\n"


def test_keys_copy_all_rows_with_their_heads_or_the_one_in_hand(
    qtbot: QtBot, window: Window
) -> None:
    table = conductors(window)
    table.setFocus()
    qtbot.keyClick(table, Qt.Key.Key_C, CONTROL)
    lines = clipped().splitlines()
    rows = table.rows_model.rows
    assert len(lines) == len(rows) + 1 > 5
    heads = lines[0].split("\t")
    assert heads == [column.head for column in table.rows_model.columns]
    assert all(len(line.split("\t")) == len(heads) for line in lines)
    assert lines[1].split("\t")[0] == rows[0].cells[0]
    assert f"{len(rows)} rows" in window.notice.text.text()
    table.setCurrentIndex(table.rows_model.index(2, 0))
    qtbot.keyClick(table, Qt.Key.Key_C, CONTROL | Qt.KeyboardModifier.AltModifier)
    assert clipped().splitlines()[1:] == [lines[3]]


def test_in_a_field_the_keys_are_the_fields_own(qtbot: QtBot, window: Window) -> None:
    window.go_to("need")
    field = QApplication.focusWidget()
    assert field is not None
    qtbot.keyClick(field, Qt.Key.Key_C, CONTROL)
    assert clipped() == field.text()  # type: ignore[attr-defined]


def test_a_drawing_is_copied_as_pixels_and_as_a_drawing(qtbot: QtBot, window: Window) -> None:
    window.open_stage("arrangement")
    view = window.stages["arrangement"].findChild(PackView)
    assert isinstance(view, PackView)
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_C, CONTROL | SHIFT)
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    data = clipboard.mimeData()
    assert data is not None and data.hasImage() and data.hasFormat(SVG)
    root = ElementTree.fromstring(data.data(SVG).data())
    assert root.tag.endswith("svg") and len(list(root.iter())) > 30
    assert copy_rows(view) == len(view.told().rows) > 0


def test_a_plot_is_copied_with_the_words_of_its_axes(window: Window) -> None:
    window.open_stage("run")
    plot = next(it for it in window.stages["run"].findChildren(Plot) if it.isVisible())
    told = rows_of(plot)
    assert told is not None and told.rows
    assert copy_rows(plot) == len(told.rows)
    assert clipped().split("\n")[0] == "\t".join(told.heads)
    copy_picture(plot)


def test_what_is_neither_says_so(window: Window, qtbot: QtBot) -> None:
    label = QLabel("word")
    qtbot.addWidget(label)
    assert source_of(label) is None and source_of(None) is None
    window.title_line.setFocus()
    window.copy_picture()
    assert "Nothing here to copy" in window.notice.text.text()


def test_the_menu_at_a_table_has_what_the_keys_do(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    table = conductors(window)
    shown: list[list[str]] = []
    monkeypatch.setattr(
        QMenu, "exec", lambda menu, *_: shown.append([it.text() for it in menu.actions()])
    )
    at = table.mapTo(window.frame, table.rect().center())
    reason = QContextMenuEvent.Reason.Mouse
    QApplication.sendEvent(window.frame, QContextMenuEvent(reason, at))
    assert [text.split("\t")[0] for text in shown[0]] == [
        "Copy rows",
        "Copy this row",
        "Copy as picture",
    ]
    in_menus = {name.replace("&", "") for name, _ in window.menus.actions}
    assert {text.split("\t")[0] for text in shown[0]} <= in_menus
