"""Names come from elsewhere: what looks like markup is shown, not followed."""

import itertools
from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import asdict, replace
from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QLabel, QTreeView, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.catalogue import Catalogue, Parts
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.readings import ReadingsView
from lumvak.ui.stages.order import STAGES
from lumvak.ui.stages.taps.voltages import VoltagesView
from lumvak.ui.widgets.words import Empty, soft, tip
from tests.ui.conftest import forget

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


def tips_of(window: Window) -> Iterator[str]:
    """Every tip of what the window holds, of the rows of its tables and trees too."""
    for widget in window.findChildren(QWidget):
        yield widget.toolTip()
    for view in window.findChildren(QAbstractItemView):
        model = view.model()
        waiting = [QModelIndex()] if model is not None else []
        while waiting and model is not None:
            parent = waiting.pop()
            for row, column in itertools.product(
                range(model.rowCount(parent)), range(model.columnCount(parent))
            ):
                index = model.index(row, column, parent)
                yield str(model.data(index, Qt.ItemDataRole.ToolTipRole) or "")
                if not column and isinstance(view, QTreeView):
                    waiting.append(index)


def test_no_tip_of_any_view_follows_markup(window: Window, tmp_path: Path) -> None:
    session = window.session
    session.save(tmp_path / "<b>pack.lumvak.json")
    parts = {
        kind: tuple(replace(part, name=f"{part.name} {NAME}") for part in found)
        if kind != "chemistries"
        else found
        for kind, found in asdict(session.catalogue.all_parts).items()
    }
    session.catalogue = Catalogue([Parts(**parts)])
    note = f"{NAME} said"
    session.edit({"name": NAME, "note": note})
    walked = 0
    for stage in STAGES:
        window.open_stage(stage.key)
        page = window.stages[stage.key]
        for view in getattr(page, "views", {"": None}):
            if view:
                page.show_view(view)
            QApplication.processEvents()
            for text in tips_of(window):
                walked += bool(text)
                assert NAME not in text
                assert "<b>" not in text
    assert walked > 500


def test_a_text_that_was_narrow_is_low_again_once_it_is_wide(qapp: QApplication) -> None:
    label = soft("It may have volts that rise in the cold: see that they are off.", wrap=True)
    label.show()
    label.resize(600, 20)
    low = label.minimumHeight()
    label.resize(120, 20)
    assert label.minimumHeight() >= 3 * low
    label.resize(600, 20)
    assert label.minimumHeight() == low
    label.setText("")
    assert label.minimumHeight() == 0


def test_it_says_what_to_do_first_and_in_which_order(qtbot: QtBot) -> None:
    empty = Empty("Nothing yet", ("Begin here.", "Then this."))
    qtbot.addWidget(empty)
    assert empty.accessibleName() == "Nothing yet: Begin here. Then this."
    assert [line.text() for line in empty.lines] == ["Begin here.", "Then this."]
    empty.say(1, "Then that.")
    assert empty.lines[1].text() == "Then that."


@pytest.mark.parametrize(
    ("stage", "view", "kind"),
    [("hand", "measure", ReadingsView), ("taps", "voltages", VoltagesView)],
)
def test_views_without_anything_say_how_to_begin(
    window: Window, stage: str, view: str, kind: type[ReadingsView | VoltagesView]
) -> None:
    window.session.edit({"hand.cells": (), "watch.sets": ()})
    window.open_stage(stage)
    window.stages[stage].show_view(view)
    page = window.stages[stage].views[view]  # type: ignore[attr-defined]
    assert isinstance(page, kind)
    assert page.empty.isVisible() and not page.table.isVisible()
    series = window.session.evaluation.sized.choice.series
    cell = {"number": 1, "lot": window.session.project.hand.lots[0].name, "volts": 3.6}
    window.session.edit({"hand.cells": (cell,), "watch.sets": ({"volts": (3.7,) * series},)})
    assert not page.empty.isVisible() and page.table.isVisible()
    forget(window)


def test_no_group_has_its_cells_until_they_are_assigned(window: Window) -> None:
    window.open_stage("hand")
    window.stages["hand"].show_view("groups")
    groups = window.stages["hand"].views["groups"]  # type: ignore[attr-defined]
    assert groups.empty.isVisible() and not groups.both.isVisible()
