"""Side by side: the pack chosen, those kept beside it, and the one that is replaced."""

from __future__ import annotations

from msgspec.structs import asdict
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from lumvak.core.comparison.side_by_side import (
    MEASURES,
    ComparedColumn,
    ComparedValue,
    side_by_side,
)
from lumvak.core.evaluation import Evaluation
from lumvak.ui.explain import explain_other
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, spoken
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots
from lumvak.ui.widgets.words import soft

HEAD, LINE, NAMES = 52, 27, 138
REPLACED = {
    "pack.voltage_nominal_v": "need.replaced_voltage_v",
    "pack.capacity_ah": "need.replaced_capacity_ah",
    "pack.energy_wh": "need.replaced_capacity_ah",
    "pack.mass_kg": "need.replaced_mass_kg",
}
BETTER = {1: "verdigris", -1: "amber", 0: "soft"}


class _ComparedColumns(QWidget):
    """Paints the columns; Left and Right move, Enter takes one chosen, Delete drops it."""

    picked = pyqtSignal(object)
    dropped = pyqtSignal(object)
    explained = pyqtSignal(object, str)
    moved_to = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.sides: tuple[ComparedColumn, ...] = ()
        self.current = 0
        self._spots = Spots(self, lambda place: self.picked.emit(self.sides[place].pack))
        self.setAccessibleName(in_words("Packs side by side"))

    def show_sides(self, sides: tuple[ComparedColumn, ...]) -> None:
        """Show these columns."""
        self.sides = sides
        self.current = min(self.current, max(0, len(sides) - 1))
        self.tell()
        self.setMinimumHeight(THEME.px(HEAD + LINE * len(MEASURES) + 8))
        self.update()

    def tell(self) -> None:
        """Have each column told to those who do not see it."""
        names = [
            f"{in_words(side.title)}, {spoken(side.subtitle)}: "
            + ", ".join(
                f"{in_words(measure.name)} {spoken(entry.text)} {spoken(entry.difference)}".strip()
                for measure, entry in zip(MEASURES, side.entries, strict=True)
            )
            for side in self.sides
        ]
        self._spots.show(names, self.current)
        self._spots.lay([self.column_rect(place) for place in range(len(names))])

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._spots.lay([self.column_rect(place) for place in range(len(self.sides))])

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(700), THEME.px(HEAD + LINE * len(MEASURES) + 8))

    def column_rect(self, place: int) -> QRectF:
        left = THEME.px(NAMES)
        width = min((self.width() - left) / max(len(self.sides), 1), THEME.px(260))
        return QRectF(left + place * width, 0, width, THEME.px(HEAD + LINE * len(MEASURES)))

    def line_rect(self, place: int) -> QRectF:
        return QRectF(0, THEME.px(HEAD + LINE * place), self.width(), THEME.px(LINE))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for place, side in enumerate(self.sides):
            self._paint_head(painter, self.column_rect(place), side, place)
        right = self.column_rect(len(self.sides) - 1).right() if self.sides else 0.0
        for place, measure in enumerate(MEASURES):
            line = self.line_rect(place)
            painter.setPen(THEME.colour("rule"))
            painter.drawLine(QPointF(0, line.bottom()), QPointF(right, line.bottom()))
            painter.setFont(THEME.font("table"))
            painter.setPen(THEME.colour("soft"))
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, in_words(measure.name))
            for at, side in enumerate(self.sides):
                column = self.column_rect(at)
                cell = QRectF(column.left(), line.top(), column.width(), line.height())
                self._paint_entry(painter, cell, side.entries[place], at == 0)

    def _paint_head(
        self, painter: QPainter, column: QRectF, side: ComparedColumn, place: int
    ) -> None:
        if place == 0:
            painter.fillRect(column, THEME.colour("tint"))
            painter.fillRect(
                QRectF(column.left(), 0, column.width(), THEME.px(3)), THEME.colour("copper")
            )
        if place == self.current and self.hasFocus():
            painter.setPen(THEME.colour("verdigris"))
            painter.drawRect(column.adjusted(0, 0, -1, -1))
        pad = THEME.px(10)
        inner = column.adjusted(pad, THEME.px(6), -pad, 0)
        painter.setFont(THEME.font("stage", strong=True, table=True))
        painter.setPen(THEME.colour("copper" if place == 0 else "ink"))
        painter.drawText(inner, Qt.AlignmentFlag.AlignLeft, in_words(side.title))
        painter.setFont(THEME.font("note", table=True))
        painter.setPen(THEME.colour("soft" if side.serves else "crimson"))
        below = QRectF(inner.left(), THEME.px(27), inner.width(), THEME.px(22))
        text = painter.fontMetrics().elidedText(
            spoken(side.subtitle), Qt.TextElideMode.ElideRight, int(inner.width())
        )
        painter.drawText(below, Qt.AlignmentFlag.AlignVCenter, text)

    def _paint_entry(
        self, painter: QPainter, cell: QRectF, entry: ComparedValue, first: bool
    ) -> None:
        middle = Qt.AlignmentFlag.AlignVCenter
        half = cell.left() + cell.width() * 0.5
        painter.setFont(THEME.font("table", strong=first, table=True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(
            QRectF(cell.left(), cell.top(), half - cell.left(), cell.height()),
            middle | Qt.AlignmentFlag.AlignRight,
            spoken(entry.text),
        )
        if not entry.difference:
            return
        painter.setFont(THEME.font("note", table=True))
        colour = THEME.colour(BETTER[entry.better])
        painter.setPen(colour)
        x = half + THEME.px(20)
        painter.drawText(
            QRectF(x, cell.top(), cell.right() - x, cell.height()), middle, spoken(entry.difference)
        )
        if entry.better:
            size, y = THEME.px(4), cell.center().y()
            tip = -size if entry.better > 0 else size
            x -= THEME.px(8)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            painter.drawPolygon(
                QPolygonF(
                    [QPointF(x, y + tip), QPointF(x - size, y - tip), QPointF(x + size, y - tip)]
                )
            )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place in range(len(self.sides)):
            if self.column_rect(place).contains(event.position()):
                self._move_to(place)
                self._explain(self.sides[place], event.position())

    def _pick(self, place: int) -> None:
        self.picked.emit(self.sides[place].pack)

    def _move_to(self, place: int) -> None:
        self.current = place
        self.tell()
        self.moved_to.emit()
        self.update()

    def _explain(self, side: ComparedColumn, spot: QPointF) -> None:
        for place, measure in enumerate(MEASURES):
            if self.line_rect(place).contains(spot):
                self.explained.emit(side.pack, measure.figure)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step:
            self._move_to(moved(self.current, step, len(self.sides)))
        elif is_enter(event):
            self._pick(self.current)
        elif event is not None and event.key() == Qt.Key.Key_Delete:
            self.dropped.emit(self.sides[self.current].pack)
        else:
            super().keyPressEvent(event)


class BesideView(Page):
    """The columns, and what can be done with the one that is marked."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.columns = _ComparedColumns()
        self.take = QPushButton("use this pack")
        self.drop = QPushButton("drop it")
        self.told = soft("", wrap=True)
        scroll = QScrollArea()
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.columns)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(6), THEME.px(12), THEME.px(6))
        row = QHBoxLayout()
        row.addWidget(self.told, 1)
        row.addWidget(self.take)
        row.addWidget(self.drop)
        outer.addLayout(row)
        outer.addWidget(scroll, 1)
        self.columns.picked.connect(self._take)
        self.columns.dropped.connect(self._drop)
        self.columns.explained.connect(self._explain)
        self.columns.moved_to.connect(self._offer)
        self.take.clicked.connect(lambda: self._take(self._marked()))
        self.drop.clicked.connect(lambda: self._drop(self._marked()))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Set the pack chosen beside those kept and the replaced one."""
        in_hand = (
            evaluation.sized.choice.cell.id,
            evaluation.sized.choice.series,
            evaluation.sized.choice.parallel,
        )
        kept = [(item.cell, item.series, item.parallel) for item in evaluation.project.pack.beside]
        others = [pack for pack in kept if pack != in_hand]
        self.columns.show_sides(
            side_by_side(evaluation.sized.sized_pack, evaluation.project.need, [in_hand, *others])
        )
        self.told.setText(
            in_words("Differences against the chosen pack; a triangle up is better, down is worse.")
            if len(self.columns.sides) > 1
            else in_words(
                "Nothing to compare with yet: “keep beside” above the table of options keeps the "
                "chosen pack here; then take another. What is replaced is entered with the need."
            )
        )
        self._offer()

    def _explain(self, pack: tuple[str, int, int] | None, key: str) -> None:
        choice = self.session.evaluation.sized.choice
        if pack is None:
            self.session.explain(REPLACED.get(key, ""))
        elif pack == (choice.cell.id, choice.series, choice.parallel):
            self.session.explain(key)
        else:
            explain_other(self.session, pack, key)

    def _marked(self) -> tuple[str, int, int] | None:
        sides = self.columns.sides
        return sides[self.columns.current].pack if sides else None

    def _offer(self) -> None:
        pack = self._marked()
        self.take.setEnabled(pack is not None and self.columns.current > 0)
        kept = [
            (item.cell, item.series, item.parallel) for item in self.session.project.pack.beside
        ]
        self.drop.setEnabled(pack in kept)

    def _take(self, pack: tuple[str, int, int] | None) -> None:
        if pack is None:
            return
        cell, series, parallel = pack
        evaluation = self.session.evaluation
        mine = (
            evaluation.sized.choice.cell.id,
            evaluation.sized.choice.series,
            evaluation.sized.choice.parallel,
        )
        kept = [(item.cell, item.series, item.parallel) for item in evaluation.project.pack.beside]
        # What was chosen stays beside, in the place of what is taken.
        swapped = [mine if item == pack else item for item in kept if item != mine or item == pack]
        try_edit(
            self.session,
            {
                "pack.cell": cell,
                "pack.series": series,
                "pack.parallel": parallel,
                "pack.beside": tuple(
                    {"cell": item[0], "series": item[1], "parallel": item[2]} for item in swapped
                ),
            },
        )

    def _drop(self, pack: tuple[str, int, int] | None) -> None:
        kept = [
            asdict(item)
            for item in self.session.project.pack.beside
            if (item.cell, item.series, item.parallel) != pack
        ]
        try_edit(self.session, {"pack.beside": tuple(kept)}, "drop from beside")
