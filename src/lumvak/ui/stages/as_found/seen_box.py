"""A choice among what may be seen, or not seen."""

from __future__ import annotations

import re
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent, QWheelEvent
from PyQt6.QtWidgets import QComboBox, QGridLayout, QWidget

from lumvak.core.document.edit import field_of, value_at
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.quantity_field import mark_bad, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, tip

NOT_SEEN = "not seen"
LABEL_PX, BOX_PX = 128, 168


class _Box(QComboBox):
    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Turning the wheel scrolls the page; it picks nothing by accident."""
        if event is not None:
            event.ignore()


class SeenBox(QWidget):
    """A labelled list of what a field may be; the first line is that it was not seen.

    ``items`` are values and their words; ``strikes`` are fields that say nothing more once it is
    said that there is none of it.
    """

    def __init__(
        self,
        session: Session,
        path: str,
        items: tuple[tuple[Any, str], ...],
        strikes: tuple[str, ...] = (),
    ) -> None:
        super().__init__()
        self.strikes = strikes
        field = field_of(path)
        self.session, self.path = session, path
        self.setObjectName(path)
        self.setToolTip(tip(field.description))
        self.label = plain(field.title)
        self.box = _Box()
        self.box.setAccessibleName(field.title)
        self.box.setFixedWidth(THEME.px(BOX_PX))
        self.label.setBuddy(self.box)
        self.items = ((None, NOT_SEEN), *items)
        self.box.addItems([words for _, words in self.items])
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setHorizontalSpacing(THEME.px(10))
        layout.setColumnMinimumWidth(0, THEME.px(LABEL_PX))
        layout.addWidget(self.label, 0, 0)
        layout.addWidget(self.box, 0, 1)
        layout.setColumnStretch(2, 1)
        self.setFocusProxy(self.box)
        self.refresh()
        self.box.activated.connect(self._take)
        session.changed.connect(self._refresh)

    def _take(self, place: int) -> None:
        value = self.items[place][0]
        struck = {path: None for path in self.strikes if value == "none"}
        try_edit(self.session, {self.path: value, **struck})
        self.refresh()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def _refresh(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show what the project says."""
        value = value_at(self.session.project, self.path)
        places = [at for at, (it, _) in enumerate(self.items) if it == value and it is not None]
        self.box.setCurrentIndex(places[0] if places else 0)


class GroupVolts(QWidget):
    """The rest volts of all groups, typed in a row: from the most negative on."""

    path = "as_found.group_v"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName(self.path)
        self.label = plain("Groups at rest")
        self.edit = EntryField()
        self.edit.setAccessibleName(in_words("Volts of each group at rest"))
        self.edit.setPlaceholderText(in_words("3.71 3.70 3.71 …, from the − end"))
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setHorizontalSpacing(THEME.px(10))
        layout.setColumnMinimumWidth(0, THEME.px(LABEL_PX))
        layout.addWidget(self.label, 0, 0, Qt.AlignmentFlag.AlignVCenter)
        # A row of many: it takes the whole width.
        layout.addWidget(self.edit, 1, 0, 1, 2)
        layout.setColumnStretch(1, 1)
        layout.addWidget(self.problem, 2, 0, 1, 2)
        self.setFocusProxy(self.edit)
        self.edit.editingFinished.connect(self.commit)
        session.changed.connect(self._refresh)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def _refresh(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show what was read, unless something is typed."""
        if not (self.edit.hasFocus() and self.edit.isModified()):
            told = (f"{it:g}" for it in self.session.project.as_found.group_v)
            self.edit.setText(" ".join(told))

    def commit(self) -> None:
        """Take what was typed; what is no row of volts waits, explained."""
        if not self.edit.isModified():
            return
        volts, why = read_volts(self.edit.text())
        mark_bad(self.edit, self.problem, why)
        if not why:
            self.edit.setModified(False)
            try_edit(self.session, {self.path: volts}, "groups at rest")
            self.refresh()


def read_volts(text: str) -> tuple[tuple[float, ...], str]:
    """Volts typed in a row, parted by blanks, semicolons or lines; else why not."""
    parts = [it for it in re.split(r"[\s;]+", text.strip()) if it]
    if len(parts) == 1 and parts[0].count(",") > 1:
        parts = parts[0].split(",")
    volts = []
    for place, part in enumerate(parts, 1):
        shown = part.rstrip("Vv,").replace(",", ".")
        try:
            value = float(shown)
        except ValueError:
            return (), worded(
                "group {}: “{}” is no voltage; accepted: such as 3.71 3.70", place, part[:20]
            )
        if not 0.0 < value <= 6.0:
            return (), worded("group {}: {} is no cell; accepted: over 0 to 6 V", place, part[:20])
        volts.append(value)
    return tuple(volts), ""
