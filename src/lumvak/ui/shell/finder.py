"""One line to find anything by: stages, views, fields, figures, commands."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from lumvak.ui.laid_over.over import Over
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.keys import is_return, moved, step_of
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import RowsTable

WIDE, HIGH = 560, 340
FINDS = "What to find"
COLUMNS = (
    Column("found", left=True, stretch=True, tip="What can be gone to or done"),
    Column("what it is", left=True, sample="command", tip="Stage, view, field, figure or command"),
    Column("now", left=True, sample="Ctrl+Shift+S", tip="Its value, or its keys"),
)


class Findable(Struct, frozen=True):
    """Something to go to or to do: its name, what it is, its value or keys.

    ``also`` are other words that it is looked for by.
    """

    name: str
    kind: str
    now: str
    do: Callable[[], object]
    also: str = ""


def matches(items: Sequence[Findable], typed: str) -> list[Findable]:
    """What holds every word that was typed; what begins with them stands first, then the short."""
    words = typed.casefold().split()

    def rank(item: Findable) -> tuple[bool, bool, int] | None:
        name = item.name.casefold()
        if not all(word in f"{name} {item.kind} {item.also.casefold()}" for word in words):
            return None
        begins = any(part.startswith(words[0]) for part in name.split()) if words else True
        return not (words and name.startswith(words[0])), not begins, len(name)

    ranked = [(order, place) for place, item in enumerate(items) if (order := rank(item))]
    return [items[place] for _, place in sorted(ranked)]


class Finder(Over):
    """Lies over the window while it is asked; Enter takes what is marked, Escape leaves."""

    def __init__(self, over: QWidget) -> None:
        super().__init__(over, "Find anything", WIDE, HIGH)
        self._items: Sequence[Findable] = ()
        self.found: list[Findable] = []
        self._at = 0
        self.line = EntryField()
        self.line.setAccessibleName(FINDS)
        self.line.setPlaceholderText(in_words("a stage, a view, a field, a figure, a command"))
        self.table = RowsTable(COLUMNS, "Found")
        self.table.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.body.addWidget(self.line)
        self.body.addWidget(self.table, 1)
        self.line.textChanged.connect(lambda _: self._find())
        self.table.picked.connect(self._take)

    def ask(self, items: Sequence[Findable]) -> None:
        """Lie over the middle of the window and look among these."""
        self.lie_over()
        self._items = items
        self.line.clear()
        self._find()
        self.line.setFocus()

    def _find(self) -> None:
        self.found = matches(self._items, self.line.text())
        self._at = 0
        self._show()

    def _show(self) -> None:
        def row(place: int) -> Row:
            item = self.found[place]
            return Row((item.name, item.kind, item.now), value=place, chosen=place == self._at)

        self.table.show_rows(LazyRows(len(self.found), row, self._at))
        self.table.show_chosen()
        self.line.setAccessibleName(f"{in_words(FINDS)}: {self._heard()}")

    def _heard(self) -> str:
        """What is marked, for the name of the line: one that changes is announced."""
        if not self.found:
            return in_words("nothing is called so")
        item = self.found[self._at]
        told = ", ".join(filter(None, (item.name, item.kind, item.now)))
        return worded("{}; {} of {}", told, self._at + 1, len(self.found))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if step and self.found:
            self._at = moved(self._at, step, len(self.found))
            self._show()
        elif is_return(event):
            if self.found:
                self._take(self._at)
        else:
            super().keyPressEvent(event)

    def _take(self, place: int) -> None:
        item = self.found[place]
        self.leave()
        item.do()
