"""Anything can be found by one line: type, Enter."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.files.samples import samples
from lumvak.ui.shell.finder import Findable, Finder, matches
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.length import so_many

CONTROL = Qt.KeyboardModifier.ControlModifier


def nothing() -> None:
    """Done when it is taken."""


ITEMS = [
    Findable(name, kind, "", nothing)
    for name, kind in (
        ("Fuse needs at least", "figure"),
        ("Main fuse", "field"),
        ("Fuse", "figure"),
        ("Power path: storage", "view"),
        ("OCV", "figure"),
    )
]


def test_every_word_counts_and_what_begins_with_it_stands_first() -> None:
    names = [item.name for item in matches(ITEMS, "fuse")]
    assert names == ["Fuse", "Fuse needs at least", "Main fuse"]
    assert [item.name for item in matches(ITEMS, "storage view")] == ["Power path: storage"]
    assert len(matches(ITEMS, "")) == len(ITEMS)
    assert not matches(ITEMS, "nowhere")


def find(qtbot: QtBot, window: Window, text: str) -> Finder:
    qtbot.keyClick(window, Qt.Key.Key_F, CONTROL)
    finder = window.findChild(Finder)
    assert finder is not None
    assert finder.isVisible()
    assert finder.line.hasFocus()
    qtbot.keyClicks(finder.line, text)
    return finder


def test_a_view_a_field_a_figure_and_a_command_are_a_few_keys_away(
    qtbot: QtBot, window: Window
) -> None:
    finder = find(qtbot, window, "opens first")
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert not finder.isVisible()
    assert window.stage == "power"
    assert window.stages["power"].view.value == "order"  # type: ignore[attr-defined]

    finder = find(qtbot, window, "rated voltage field")
    assert finder.found[0].kind == "field"
    # By ear too, with how many there are.
    heard = finder.line.accessibleName()
    assert heard.startswith("What to find: Rated voltage, field, 48 V; 1 of ")
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert window.stage == "need"
    focus = QApplication.focusWidget()
    assert focus is not None
    assert isinstance(focus.parentWidget(), QuantityField)
    assert focus.parentWidget().path == "need.rated_voltage_v"  # type: ignore[union-attr]

    finder = find(qtbot, window, "energy figure")
    place = next(at for at, item in enumerate(finder.found) if item.kind == "figure")
    for _ in range(place):
        qtbot.keyClick(finder.line, Qt.Key.Key_Down)
    label = finder.found[place].name
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert label in window.margin.title.text()

    finder = find(qtbot, window, "fold margin")
    shown = window.margin.isVisible()
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert window.margin.isVisible() is not shown

    finder = find(qtbot, window, "undo")
    qtbot.keyClick(finder.line, Qt.Key.Key_Escape)
    assert not finder.isVisible()


def test_exports_and_samples_are_found(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []

    def ask(*arguments: object) -> tuple[str, str]:
        asked.append(str(arguments[2]))
        return "", ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    qtbot.keyClick(find(qtbot, window, "export netlist").line, Qt.Key.Key_Return)
    assert asked[0].endswith("Orchard barrow.cir")
    name, path = samples()[-1]
    before = path.read_bytes()
    qtbot.keyClick(find(qtbot, window, f"sample {name}").line, Qt.Key.Key_Return)
    session = window.session
    assert session.project.name == name
    # It is a project of one's own: saving asks for a place, and the sample stays as it is.
    assert session.path is None
    session.edit({"note": "mine"})
    assert not window.files.save()
    assert asked[1].endswith(f"{name}.lumvak.json")
    assert path.read_bytes() == before


def test_every_field_that_is_found_leads_to_its_stage(qtbot: QtBot, window: Window) -> None:
    finder = find(qtbot, window, "")
    fields = [item for item in finder.found if item.kind == "field"]
    qtbot.keyClick(finder.line, Qt.Key.Key_Escape)
    assert len(fields) > 60
    reached = 0
    # One of so many, for each opens its stage view by view.
    for item in fields[:: so_many(12, 3)]:
        item.do()
        focus = QApplication.focusWidget()
        assert focus is not None, item.name
        reached += "is not asked for" not in window.notice.text.text()
        window.notice.hide()
        window.notice.text.setText("")
    # The others stand in tables, on drawings, or are hidden as things stand.
    assert reached > so_many(4, 10)
