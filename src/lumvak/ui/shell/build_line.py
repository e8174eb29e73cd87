"""The build line: the stages in the order of the work, in parts, each with its answer in a line."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import pairwise

from msgspec import Struct
from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QRadioButton, QToolTip, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.order import STAGES, Stage
from lumvak.ui.widgets.keys import moved, step_of
from lumvak.ui.widgets.marks import draw_mark, draw_ring
from lumvak.ui.widgets.measured import elided
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots, Told
from lumvak.ui.widgets.words import tip

# Heights at 100 % of an entry and of what lies between two: as there is room, with the answer,
# closer, with the names alone. The heading of a part; what tells that there is more.
ROOMY, CLOSE, NAMES = (56, 6), (42, 1), (25, 1)
HEADING, ABOVE, MORE, LINE_BASE = 21, 5, 16, 17
# Between two parts where marks alone are shown.
PARTED = 8
WIDE, STRIP = 190, 40


class StageLine(Struct, frozen=True):
    """One stage as the build line shows it.

    ``severity`` is “none” where it does not apply, “to do” where nothing was entered yet.
    """

    key: str
    name: str
    answer: str
    severity: str
    part: str


class Laid(Struct, frozen=True):
    """Where entries lie from the top, and headings, with the height of it all, in px.

    ``answers`` tells whether every entry shows its answer, or the open one alone.
    """

    entries: tuple[tuple[float, float], ...]
    headings: tuple[tuple[str, float], ...]
    height: float
    answers: bool


def entries(evaluation: Evaluation, stages: Sequence[Stage]) -> list[StageLine]:
    """Every stage's answer, and the worst thing to notice there."""
    return [
        StageLine(
            stage.key,
            stage.name,
            stage.answer(evaluation) if stage.applies(evaluation) else "not for this",
            state_of(evaluation, stage),
            stage.part,
        )
        for stage in stages
    ]


def state_of(evaluation: Evaluation, stage: Stage) -> str:
    """What the mark of a stage tells."""
    if not stage.applies(evaluation):
        return "none"
    found = worst(evaluation, stage.key)
    return "to do" if found == "fine" and not stage.begun(evaluation) else found


def worst(evaluation: Evaluation, stage: str) -> str:
    """The worst severity among a stage's findings; notes leave it fine."""
    found = {item.severity for item in evaluation.findings if item.stage == stage}
    return "stop" if "stop" in found else "warn" if "warn" in found else "fine"


def laid_out(
    parts: Sequence[str],
    room: float,
    current: int,
    px: Callable[[float], float],
    heading: float = HEADING,
) -> Laid:
    """Stages of these parts, one after the other, in the roomiest way that fits ``room`` px.

    Where nothing fits, it is the closest way, of which a part is in view. ``heading`` is what parts
    are set off by.
    """
    for high, gap in (ROOMY, CLOSE):
        laid = _laid(parts, [px(high)] * len(parts), px(gap), px, heading)
        if laid.height <= room:
            return laid
    heights = [px(CLOSE[0] if place == current else NAMES[0]) for place in range(len(parts))]
    laid = _laid(parts, heights, px(NAMES[1]), px, heading)
    return Laid(laid.entries, laid.headings, laid.height, False)


def _laid(
    parts: Sequence[str],
    heights: Sequence[float],
    gap: float,
    px: Callable[[float], float],
    heading: float,
) -> Laid:
    top, tops, headings = px(ABOVE), [], []
    several = len(set(parts)) > 1
    for place, (part, high) in enumerate(zip(parts, heights, strict=True)):
        if several and (not place or part != parts[place - 1]):
            headings.append((part, top))
            top += px(heading)
        tops.append((top, high))
        top += high + gap
    return Laid(tuple(tops), tuple(headings), top, True)


class BuildLine(QWidget):
    """Paints the stages down the left; Up and Down move, a click opens."""

    opened = pyqtSignal(str)

    def __init__(self, stages: Sequence[Stage] = STAGES) -> None:
        super().__init__()
        self._stages, self._keys = stages, [stage.key for stage in stages]
        self.entries: list[StageLine] = []
        self._current = self._keys[0]
        self._folded = False
        # How far down what is seen begins, where not all fits; None keeps the open one in view.
        self._moved: float | None = None
        self._spots = Spots(self, lambda place: self.opened.emit(self._keys[place]), QRadioButton)
        self.setAccessibleName("Build line")
        self.setObjectName("paper")

    def show_evaluation(self, evaluation: Evaluation, current: str) -> None:
        """Show the answers of this evaluation and which stage is open."""
        fresh = entries(evaluation, self._stages)
        if fresh != self.entries or current != self._current:
            if current != self._current:
                self._moved = None
            self.entries, self._current = fresh, current
            names = [f"{item.name}: {item.answer}, {item.severity}" for item in self.entries]
            self._spots.show(names, self._here, (self._here,))
            self._lay_spots()
            self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self.entries:
            self._lay_spots()

    def _lay_spots(self) -> None:
        """Places for those who do not see it, of what is in view."""
        room = QRectF(self.rect())
        self._spots.lay([rect.intersected(room) for rect in self.rects()])

    def fold(self, folded: bool) -> None:
        """Show the marks alone, or all."""
        self._folded = folded
        if folded:
            self.setFixedWidth(THEME.px(STRIP))
        else:
            self.setMinimumWidth(THEME.px(166))
            self.setMaximumWidth(THEME.px(300))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(STRIP if self._folded else WIDE), THEME.px(300))

    def told(self) -> Told:
        """The stages as rows."""
        rows = [(item.name, item.part, item.severity, item.answer) for item in self.entries]
        return Told("Stages", ("stage", "part", "state", "answer"), rows)

    # Where things lie.

    def laid(self) -> Laid:
        """Where entries and headings lie, before anything is moved."""
        parts = [entry.part for entry in self.entries]
        heading = PARTED if self._folded else HEADING
        return laid_out(parts, self.height(), self._here, THEME.px, heading)

    @property
    def _here(self) -> int:
        return self._keys.index(self._current)

    def _offset(self, laid: Laid) -> float:
        """How far up all is moved: so that the open stage is seen where not all fits."""
        most = max(0.0, laid.height + THEME.px(MORE) - self.height())
        if self._moved is not None:
            return min(max(self._moved, 0.0), most)
        top, high = laid.entries[self._here]
        # The next one is seen too.
        wanted = top + 2 * high + THEME.px(MORE) - self.height()
        return min(max(wanted, 0.0), most)

    def rects(self) -> list[QRectF]:
        """Where each stage is painted."""
        laid = self.laid()
        shift, width = self._offset(laid), self.width() - THEME.px(4)
        return [QRectF(0, top - shift, width, high) for top, high in laid.entries]

    def beyond(self) -> tuple[int, int]:
        """How many stages lie above and below what is seen."""
        rects = self.rects()
        edge = THEME.px(MORE) if rects[0].top() < 0 else 0
        above = sum(rect.top() < edge for rect in rects)
        foot = self.height() - (THEME.px(MORE) if rects[-1].bottom() > self.height() else 0)
        return above, sum(rect.bottom() > foot for rect in rects)

    # Painting.

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.entries:
            return
        painter = QPainter(self)
        laid, rects = self.laid(), self.rects()
        shift, x = self._offset(laid), self._mark_x()
        painter.setPen(THEME.colour("line"))
        for one, two in pairwise(rects):
            painter.drawLine(x, round(self._mark_y(one)), x, round(self._mark_y(two)))
        for part, top in laid.headings:
            self._paint_heading(painter, part, top - shift)
        for place, (rect, entry) in enumerate(zip(rects, self.entries, strict=True)):
            self._paint_entry(painter, rect, entry, laid.answers or place == self._here)
        self._paint_more(painter, *self.beyond())

    def _mark_x(self) -> int:
        return THEME.px((STRIP - 4) / 2 if self._folded else 26)

    def _mark_y(self, rect: QRectF) -> float:
        return rect.top() + min(THEME.px(LINE_BASE), rect.height() / 2)

    def _paint_heading(self, painter: QPainter, part: str, top: float) -> None:
        box = QRectF(THEME.px(12), top, self.width() - THEME.px(18), THEME.px(HEADING))
        if self._folded:
            return
        painter.fillRect(box, THEME.colour("paper"))
        painter.setPen(THEME.colour("soft"))
        painter.setFont(THEME.font("note", table=True))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, part)

    def _paint_entry(
        self, painter: QPainter, rect: QRectF, entry: StageLine, with_answer: bool
    ) -> None:
        here, x, y = entry.key == self._current, self._mark_x(), self._mark_y(rect)
        if here:
            painter.fillRect(rect, THEME.colour("tint"))
            bar = QRectF(rect.left(), rect.top(), THEME.px(3), rect.height())
            painter.fillRect(bar, THEME.colour("verdigris"))
            draw_ring(painter, x, y)
            if self.hasFocus():
                painter.setPen(QPen(THEME.colour("verdigris"), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(rect.adjusted(1, 1, -1, -1))
        draw_mark(painter, x, y, entry.severity)
        if self._folded:
            return
        left = THEME.px(46)
        width = rect.width() - left - THEME.px(6)
        painter.setPen(THEME.colour("soft" if entry.severity == "none" else "ink"))
        painter.setFont(THEME.font("stage", strong=here))
        box = QRectF(left, y - THEME.px(11), width, THEME.px(22))
        painter.drawText(
            box, Qt.AlignmentFlag.AlignVCenter, elided(entry.name, int(width), "stage", strong=here)
        )
        if not with_answer:
            return
        role = {"stop": "crimson", "warn": "amber"}.get(entry.severity, "soft")
        painter.setPen(THEME.colour(role))
        painter.setFont(THEME.font("note", table=True))
        below = QRectF(left, min(box.bottom(), rect.bottom() - THEME.px(18)), width, THEME.px(18))
        painter.drawText(
            below,
            Qt.AlignmentFlag.AlignVCenter,
            elided(entry.answer, int(width), "note", table=True),
        )

    def _paint_more(self, painter: QPainter, above: int, below: int) -> None:
        """A sign at the edge that stages lie beyond, and how many."""
        high = THEME.px(MORE)
        painter.setFont(THEME.font("note", table=True))
        for count, top, sign in ((above, 0, -1), (below, self.height() - high, 1)):
            if not count:
                continue
            box = QRectF(0, top, self.width(), high)
            painter.fillRect(box, THEME.colour("paper"))
            painter.setPen(THEME.colour("soft"))
            x, y, size = self._mark_x(), box.center().y(), THEME.px(4)
            painter.setBrush(THEME.colour("soft"))
            painter.drawPolygon(
                QPolygonF(
                    [
                        QPointF(x - size, y - sign * size / 2),
                        QPointF(x + size, y - sign * size / 2),
                        QPointF(x, y + sign * size / 2),
                    ]
                )
            )
            if not self._folded:
                words = f"{count} more"
                painter.drawText(
                    box.adjusted(THEME.px(46), 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, words
                )

    # Pointer and keys.

    def _at(self, spot: QPointF) -> StageLine | None:
        found = zip(self.rects(), self.entries, strict=True)
        return next((entry for rect, entry in found if rect.contains(spot)), None)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (entry := self._at(event.position())) is not None:
            self.opened.emit(entry.key)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and self.entries:
            steps = event.angleDelta().y() / 120.0
            self._moved = self._offset(self.laid()) - steps * THEME.px(NAMES[0])
            self._lay_spots()
            self.update()

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            entry = self._at(QPointF(event.pos()))
            said = tip(f"{entry.name}: {entry.answer}") if entry is not None else ""
            QToolTip.showText(event.globalPos(), said, self)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if not step:
            super().keyPressEvent(event)
            return
        self.opened.emit(self._keys[moved(self._here, step, len(self._keys))])
