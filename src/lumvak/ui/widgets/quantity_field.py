"""Fields that take quantities as builders spell them, bound to the project."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QShowEvent
from PyQt6.QtWidgets import QGridLayout, QLabel, QLineEdit, QWidget

from lumvak.core.document.edit import ProjectError, default_value, field_of, kind_of, value_at
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import ORIGIN_WORDS, Figure
from lumvak.core.units import COUNT, QuantityError
from lumvak.ui.refused import RefusedEntry
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, said_of, say, spell, spoken
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, tip


class QuantityField(QWidget):
    """A labelled field for one quantity of the project, which it follows while it is seen.

    Takes what people type; a bad entry stays, is marked and explained, and changes nothing. An
    optional field left empty shows the value that is taken instead, and where it comes from. Its
    name, kind and tip are those of its type in the document; ``figure`` is the key of what is taken
    where it is empty, if that is not its own path, ``usual`` what stands there where it is no
    figure, ``empty`` what it says of an optional one without either.
    """

    def __init__(
        self,
        session: Session,
        path: str,
        label: str | None = None,
        *,
        figure: str = "",
        usual: Callable[[Evaluation], float] | None = None,
        width: int = 104,
        empty: str = "not given",
    ) -> None:
        super().__init__()
        self.empty = empty
        field = field_of(path)
        self.session, self.path, self.kind = session, path, kind_of(path)
        self.optional, self.figure, self._usual = field.optional, figure or path, usual
        label = field.title if label is None else label
        self.setObjectName(path)
        self.setToolTip(tip(field.description))
        self.shown_text = ""
        self.label = plain(label)
        self.edit = EntryField()
        self.edit.setAccessibleName(label)
        self.edit.setMinimumWidth(THEME.px(width))
        self.edit.setMaximumWidth(THEME.px(width + 30))
        self.note = plain("")
        self.note.setObjectName("soft")
        self.note.setFont(THEME.font("note", table=True))
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setFont(THEME.font("note", table=True))
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.label.setBuddy(self.edit)
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setHorizontalSpacing(THEME.px(10))
        layout.setVerticalSpacing(0)
        layout.setColumnMinimumWidth(0, THEME.px(128))
        layout.addWidget(self.label, 0, 0)
        layout.addWidget(self.edit, 0, 1)
        layout.addWidget(self.note, 0, 2)
        layout.setColumnStretch(2, 1)
        layout.addWidget(self.problem, 1, 0, 1, 3)
        self.edit.editingFinished.connect(self.commit)
        session.changed.connect(self._refresh)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._refresh()

    def _refresh(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the project's value, or what is taken in its place."""
        evaluation = self.session.evaluation
        value = value_at(evaluation.project, self.path)
        self._show(value, evaluation.figures.get(self.figure))
        if value is None and self._usual is not None:
            self.edit.setPlaceholderText(say(self._usual(evaluation), self.kind.unit))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.session.let_go(self.path)
            self._write(self.shown_text)
            self._mark("")
            return
        super().keyPressEvent(event)

    def _write(self, text: str) -> None:
        """Have a text in the field; whoever types on types over it."""
        # Even where it stands there already: the field has nothing of its own to undo from here on.
        self.edit.setText(text)
        if self.edit.hasFocus():
            self.edit.selectAll()

    def _show(self, value: Any, figure: Figure | None) -> None:
        text = "" if value is None else spell(value, self.kind)
        pending = self.edit.hasFocus() and self.edit.isModified()
        waits = self.session.refused.of(self.path)
        if not pending:
            self._write(text if waits is None else waits.text)
            self._mark("" if waits is None else waits.why)
        self.shown_text = text
        if value is None and figure is not None and figure.origin != "constant":
            self.edit.setPlaceholderText(say(figure.value, figure.unit))
            self.note.setText(in_words(ORIGIN_WORDS[figure.origin]))
            self.note.setToolTip(tip(spoken(figure.rule)))
        else:
            self.edit.setPlaceholderText(in_words(self.empty) if self.optional else "")
            given = "default" if value == default_value(self.path) else "typed"
            self.note.setText("" if value is None else in_words(given))
            self.note.setToolTip("")

    def commit(self) -> None:
        """Read the entry and edit the project; what cannot be read or taken waits, explained."""
        text = self.edit.text().strip()
        if text == self.shown_text:
            self.session.let_go(self.path)
            self._mark("")
            self.edit.setModified(False)
            self._write(self.edit.text())
            return
        entry = RefusedEntry(self.path, self.label.text(), "", text, "")
        self.edit.setModified(False)
        try:
            value: Any = None
            if text or not self.optional:
                value = parse(text, self.kind)
                value = int(value) if self.kind is COUNT else value
            entry = replace(entry, value=value, readable=True)
            self.session.edit({self.path: value})
        except QuantityError as error:
            self._wait(replace(entry, why=said_of(error)))
        except ProjectError as error:
            self._wait(replace(entry, why=spoken(error.here)))
        else:
            self._mark("")
            self._write(self.shown_text)

    def _wait(self, entry: RefusedEntry) -> None:
        """Keep what was typed in the field until it fits, or something else is typed."""
        self._mark(entry.why)
        self._write(entry.text)
        self.session.refuse(entry)

    def _mark(self, problem: str) -> None:
        mark_bad(self.edit, self.problem, problem)


def full_v(evaluation: Evaluation) -> float:
    """The full voltage of the cell in hand."""
    return evaluation.sized.choice.cell.voltage_full_v


def empty_v(evaluation: Evaluation) -> float:
    """The empty voltage of the cell in hand."""
    return evaluation.sized.choice.cell.voltage_empty_v


def charging_c(evaluation: Evaluation) -> float:
    """How warm the cells are when they are charged."""
    return evaluation.charging.setting.celsius


def mark_bad(edit: QLineEdit, label: QLabel, problem: str) -> None:
    """Mark an entry as bad and say why, or clear the mark where ``problem`` is empty."""
    style = edit.style()
    if style is not None and bool(edit.property("bad")) != bool(problem):
        edit.setProperty("bad", bool(problem))
        style.unpolish(edit)
        style.polish(edit)
    edit.setAccessibleDescription(problem)
    label.setText(problem)
    label.setVisible(bool(problem))


def small_field(
    session: Session,
    path: str,
    label: str,
    *,
    width: int = 46,
    figure: str = "",
    usual: Callable[[Evaluation], float] | None = None,
) -> QuantityField:
    """A field that takes little room: its label close by, no word of origin beside it."""
    field = QuantityField(session, path, label, width=width, figure=figure, usual=usual)
    field.edit.setMaximumWidth(THEME.px(width + 20))
    layout = field.layout()
    if layout is not None:
        layout.setColumnMinimumWidth(0, 0)  # type: ignore[attr-defined]
        layout.setHorizontalSpacing(THEME.px(6))  # type: ignore[attr-defined]
    field.note.hide()
    return field


class FieldChoice(ChoiceRow):
    """A choice that edits one field of the project, which it follows while it is seen."""

    def __init__(
        self, session: Session, path: str, items: Sequence[tuple[Any, str]], name: str
    ) -> None:
        super().__init__(items, name)
        self.session, self.path = session, path
        self.setObjectName(path)
        self.setToolTip(tip(field_of(path).description))
        self.picked.connect(lambda value: try_edit(session, {path: value}))
        session.changed.connect(self._refresh)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._refresh()

    def _refresh(self) -> None:
        if self.isVisible():
            self.show_value(value_at(self.session.project, self.path))


def edit_or_why(session: Session, changes: dict[str, Any], text: str = "") -> str:
    """Edit; returns why not, or an empty text."""
    try:
        session.edit(changes, text)
    except ProjectError as error:
        return said_of(error)
    return ""


def try_edit(session: Session, changes: dict[str, Any], text: str = "") -> bool:
    """Edit, or say in the window's line why not."""
    if problem := edit_or_why(session, changes, text):
        session.tell("warn", problem)
    return not problem
