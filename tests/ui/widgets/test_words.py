"""Names come from elsewhere: what looks like markup is shown, not followed."""

import itertools
from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import asdict, replace
from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QLabel, QTreeView, QWidget

from lumvak.core.catalogue.catalogue import Catalogue, Parts
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.words import soft, tip

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
