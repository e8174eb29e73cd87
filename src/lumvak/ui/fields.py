"""Fields: a quantity as people type it, a choice as words side by side, a figure to click."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QSizePolicy, QWidget

from lumvak.core.document.edit import ProjectError, default_value
from lumvak.core.figures.figure import ORIGIN_WORDS, Figure
from lumvak.core.units import COUNT, Kind, QuantityError, parse, say, say_fixed, spell
from lumvak.ui.keys import is_enter, step_of
from lumvak.ui.session import Session
from lumvak.ui.theme import THEME


class QuantityField(QWidget):
    """A labelled field for one quantity of the project.

    Takes what people type; a bad entry stays, is marked and explained, and changes nothing. An
    optional field left empty shows the value that is taken instead, and where it comes from.
    """

    def __init__(
        self,
        session: Session,
        path: str,
        label: str,
        kind: Kind,
        *,
        optional: bool = False,
        figure: str = "",
        width: int = 104,
    ) -> None:
        super().__init__()
        self.session, self.path, self.kind, self.optional = session, path, kind, optional
        self.figure = figure
        self._shown_value: Any = None
        self._shown_text = ""
        self.label = QLabel(label)
        self.edit = QLineEdit()
        self.edit.setAccessibleName(label)
        self.edit.setMinimumWidth(THEME.px(width))
        self.edit.setMaximumWidth(THEME.px(width + 30))
        self.note = QLabel()
        self.note.setObjectName("soft")
        self.note.setFont(THEME.font("note", table=True))
        self.problem = QLabel()
        self.problem.setObjectName("bad")
        self.problem.setFont(THEME.font("note", table=True))
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.label.setBuddy(self.edit)
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setHorizontalSpacing(THEME.px(10))
        layout.setVerticalSpacing(0)
        layout.setColumnMinimumWidth(0, THEME.px(118))
        layout.addWidget(self.label, 0, 0)
        layout.addWidget(self.edit, 0, 1)
        layout.addWidget(self.note, 0, 2)
        layout.setColumnStretch(2, 1)
        layout.addWidget(self.problem, 1, 0, 1, 3)
        self.edit.editingFinished.connect(self.commit)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.edit.setText(self._shown_text)
            self._mark("")
            return
        super().keyPressEvent(event)

    def show_value(self, value: Any, figure: Figure | None) -> None:
        """Show the project's value, or what is taken in its place."""
        self.figure = figure.key if figure is not None else self.figure
        text = "" if value is None else spell(value, self.kind)
        if value != self._shown_value or not self.problem.isVisibleTo(self):
            pending = self.edit.hasFocus() and self.edit.isModified()
            if not pending:
                self.edit.setText(text)
                self._mark("")
        self._shown_value, self._shown_text = value, text
        if value is None and figure is not None and figure.origin != "constant":
            self.edit.setPlaceholderText(say(figure.value, figure.unit))
            self.note.setText(ORIGIN_WORDS[figure.origin])
            self.note.setToolTip(figure.rule)
        else:
            self.edit.setPlaceholderText("not given" if self.optional else "")
            given = "default" if value == default_value(self.path) else "typed"
            self.note.setText("" if value is None else given)
            self.note.setToolTip("")

    def commit(self) -> None:
        """Read the entry and edit the project; what cannot be read is explained."""
        text = self.edit.text().strip()
        if text == self._shown_text:
            self._mark("")
            self.edit.setModified(False)
            return
        try:
            value: Any = None
            if text or not self.optional:
                value = parse(text, self.kind)
                value = int(value) if self.kind is COUNT else value
            self.edit.setModified(False)
            self.session.edit({self.path: value})
        except QuantityError as error:
            self._mark(str(error))
        except ProjectError as error:
            self._mark(str(error).replace(f" ({self.path})", ""))
        else:
            self._mark("")
            self.edit.setText(self._shown_text)

    def _mark(self, problem: str) -> None:
        mark_bad(self.edit, self.problem, problem)


def mark_bad(edit: QLineEdit, label: QLabel, problem: str) -> None:
    """Mark an entry as bad and say why, or clear the mark where ``problem`` is empty."""
    edit.setProperty("bad", bool(problem))
    style = edit.style()
    if style is not None:
        style.unpolish(edit)
        style.polish(edit)
    label.setText(problem)
    label.setVisible(bool(problem))


class Choice(QWidget):
    """A few words side by side, one of them in force; arrow keys move between them."""

    picked = pyqtSignal(object)

    def __init__(self, items: Sequence[tuple[Any, str]], name: str) -> None:
        super().__init__()
        self._items = list(items)
        self._value: Any = items[0][0]
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    @property
    def value(self) -> Any:
        """The value in force."""
        return self._value

    def offer(self, items: Sequence[tuple[Any, str]]) -> None:
        """Offer these words instead."""
        if list(items) != self._items:
            self._items = list(items)
            self.updateGeometry()
            self.update()

    def show_value(self, value: Any) -> None:
        """Show ``value`` as the one in force."""
        if value != self._value:
            self._value = value
            self.update()

    def _rects(self) -> list[QRectF]:
        metrics = QFontMetrics(THEME.font("table"))
        left, height = 1.0, THEME.px(26)
        rects = []
        for _, text in self._items:
            width = metrics.horizontalAdvance(text) + THEME.px(18)
            rects.append(QRectF(left, 1, width, height))
            left += width
        return rects

    def sizeHint(self) -> QSize:
        rects = self._rects()
        return QSize(round(rects[-1].right()) + 2, round(rects[-1].bottom()) + 2)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rects = self._rects()
        frame = rects[0].united(rects[-1])
        for rect, (value, text) in zip(rects, self._items, strict=True):
            chosen = value == self._value
            if chosen:
                painter.fillRect(rect, THEME.colour("tint"))
                mark = QRectF(rect.left(), rect.bottom() - THEME.px(3), rect.width(), THEME.px(3))
                painter.fillRect(mark, THEME.colour("copper"))
            painter.setFont(THEME.font("table", strong=chosen))
            painter.setPen(THEME.colour("ink" if chosen else "soft"))
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)
        painter.setPen(QPen(THEME.colour("verdigris" if self.hasFocus() else "line"), 1))
        painter.drawRect(frame)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for rect, (value, _) in zip(self._rects(), self._items, strict=True):
            if rect.contains(event.position()):
                self._pick(value)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if not step:
            super().keyPressEvent(event)
            return
        values = [value for value, _ in self._items]
        place = values.index(self._value) if self._value in values else 0
        self._pick(values[(place + step) % len(values)])

    def _pick(self, value: Any) -> None:
        if value != self._value:
            self.picked.emit(value)


class FigureLabel(QWidget):
    """A figure in words: name and value; a click or Enter shows its working in the margin."""

    def __init__(self, session: Session, key: str, name: str, strong: bool = False) -> None:
        super().__init__()
        self.session, self.key, self.name, self.strong = session, key, name, strong
        self._text = ""
        self._assumed = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setToolTip("Show how this came about")

    def show_figure(self, text: str = "") -> None:
        """Show the figure as it is now; ``text`` replaces the plain value."""
        figure = self.session.figure(self.key)
        self._assumed = figure is not None and figure.origin == "assumed"
        self._text = text or ("—" if figure is None else say_fixed(figure.value, figure.unit))
        self.setAccessibleName(f"{self.name} {self._text}")
        self.updateGeometry()
        self.update()

    def _widths(self) -> tuple[int, int]:
        soft = QFontMetrics(THEME.font("table", table=True))
        bold = QFontMetrics(THEME.font("table", strong=True, table=True))
        name = soft.horizontalAdvance(self.name) + THEME.px(6) if self.name else 0
        mark = THEME.px(10) if self._assumed else 0
        return name, bold.horizontalAdvance(self._text) + mark

    def sizeHint(self) -> QSize:
        name, value = self._widths()
        return QSize(name + value + THEME.px(6), THEME.px(24))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        name, value = self._widths()
        rect = QRectF(0, 0, self.width(), self.height())
        if self.hasFocus() or self.underMouse():
            painter.fillRect(rect, THEME.colour("tint"))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(THEME.font("table", table=True))
        painter.setPen(THEME.colour("soft"))
        painter.drawText(QRectF(2, 0, name, rect.height()), middle, self.name)
        painter.setFont(THEME.font("table", strong=True, table=True))
        painter.setPen(THEME.colour("copper" if self.strong else "ink"))
        painter.drawText(QRectF(2 + name, 0, value, rect.height()), middle, self._text)
        if self._assumed:
            draw_assumed(painter, rect.right() - THEME.px(8), rect.center().y())

    def enterEvent(self, event: Any) -> None:
        self.update()

    def leaveEvent(self, event: Any) -> None:
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.session.explain(self.key)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if is_enter(event):
            self.session.explain(self.key)
        else:
            super().keyPressEvent(event)


def draw_assumed(painter: QPainter, x: float, y: float) -> None:
    """The mark of an assumed value: a small open diamond, so that it is not told by colour."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(THEME.colour("amber"), 1.4))
    painter.translate(x, y)
    painter.rotate(45)
    side = THEME.px(5)
    painter.drawRect(QRectF(-side / 2, -side / 2, side, side))
    painter.restore()


def heading(text: str) -> QLabel:
    """A section heading."""
    label = QLabel(text)
    label.setFont(THEME.font("section", strong=True))
    return label


def soft(text: str, *, wrap: bool = False) -> QLabel:
    """A line of soft text."""
    label = QLabel(text)
    label.setObjectName("soft")
    label.setFont(THEME.font("table"))
    label.setWordWrap(wrap)
    return label


def side_by_side(*fields: QWidget) -> QWidget:
    """Fields in one row, packed to the left."""
    row = QWidget()
    layout = QHBoxLayout(row)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(THEME.px(10))
    for field in fields:
        layout.addWidget(field)
    layout.addStretch(1)
    return row


def small_field(
    session: Session,
    path: str,
    label: str,
    kind: Kind,
    *,
    optional: bool = True,
    width: int = 46,
) -> QuantityField:
    """A field that takes little room: its label close by, no word of origin beside it."""
    field = QuantityField(session, path, label, kind, optional=optional, width=width)
    field.edit.setMaximumWidth(THEME.px(width + 20))
    layout = field.layout()
    if layout is not None:
        layout.setColumnMinimumWidth(0, 0)  # type: ignore[attr-defined]
        layout.setHorizontalSpacing(THEME.px(6))  # type: ignore[attr-defined]
    field.note.hide()
    return field


def bound_choice(
    session: Session, path: str, items: Sequence[tuple[Any, str]], name: str
) -> Choice:
    """A Choice that edits one field of the project."""
    choice = Choice(items, name)
    choice.picked.connect(lambda value: try_edit(session, {path: value}))
    return choice


def edit_or_why(session: Session, changes: dict[str, Any], text: str = "") -> str:
    """Edit; returns why not, or an empty text."""
    try:
        session.edit(changes, text)
    except ProjectError as error:
        return str(error)
    return ""


def try_edit(session: Session, changes: dict[str, Any], text: str = "") -> bool:
    """Edit, or say in the window's line why not."""
    if problem := edit_or_why(session, changes, text):
        session.tell("warn", problem)
    return not problem
