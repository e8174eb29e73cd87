"""The drawings in view, one at a time, as a table of what they show."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QWidget

from lumvak.ui.laid_over.over import Over
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told, told_by
from lumvak.ui.widgets.words import heading

WIDE, HIGH, MOST_IN_A_NAME = 760, 460, 34


def all_told(parts: Sequence[QWidget]) -> list[Told]:
    """What every drawing in view of these parts tells; what has the focus stands first."""
    focus = QApplication.focusWidget()
    found: list[tuple[bool, Told]] = []
    for part in parts:
        for widget in (part, *part.findChildren(QWidget)):
            told = told_by(widget) if widget.isVisible() else None
            if told is not None and told.rows:
                has = focus is not None and (focus is widget or widget.isAncestorOf(focus))
                found.append((not has, told))
    return [told for _, told in sorted(found, key=lambda item: item[0])]


class AsRows(Over):
    """One drawing after the other as a table, with a choice of which."""

    def __init__(self, over: QWidget) -> None:
        super().__init__(over, "Drawings as rows", WIDE, HIGH)
        self._told: Sequence[Told] = ()
        self.title = heading("")
        self.which = ChoiceRow(((0, ""),), "Which drawing")
        self.table: RowsTable | None = None
        self.body.addWidget(self.title)
        self.body.addWidget(flowing(self.which))
        self.which.picked.connect(self.turn)

    def ask(self, told: Sequence[Told]) -> None:
        """Lie over the window with these drawings."""
        self._told = told
        self.which.offer([(place, item.name[:MOST_IN_A_NAME]) for place, item in enumerate(told)])
        self.which.setVisible(len(told) > 1)
        self.lie_over()
        self.turn(0)

    def turn(self, place: int) -> None:
        """Turn to a drawing."""
        told = self._told[place]
        self.which.show_value(place)
        self.title.setText(told.name[:MOST_IN_A_NAME])
        if self.table is not None:
            self.body.removeWidget(self.table)
            self.table.deleteLater()
        last = len(told.heads) - 1
        columns = [
            Column(head, left=at in (0, last), stretch=at == last, tip=head, wraps=at == last)
            for at, head in enumerate(told.heads)
        ]
        self.table = RowsTable(columns, told.name)
        self.table.setMinimumHeight(THEME.px(120))
        self.body.addWidget(self.table, 1)
        self.table.show_rows(
            LazyRows(len(told.rows), lambda at: Row(told.rows[at], value=at, key=at))
        )
        self.table.show()
        self.table.setFocus(Qt.FocusReason.ShortcutFocusReason)
