"""The build line: the stages in the order of the work, in parts, each with its answer in a line."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import pairwise

from msgspec import Struct
from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QRadioButton, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.finding import Finding
from lumvak.ui.speech import in_words, worded
from lumvak.ui.stages.order import STAGES, Stage
from lumvak.ui.widgets.keys import moved, step_of
from lumvak.ui.widgets.marks import draw_mark, draw_ring
from lumvak.ui.widgets.measured import elided
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told
from lumvak.ui.widgets.words import tip

# Heights at 100 % of an entry and of what lies between two: as there is room, with the answer,
# closer, with the names alone. The heading of a part; what tells that there is more.
ROOMY, CLOSE, NAMES = (56, 6), (42, 1), (25, 1)
# Marks alone stand closer still where there is little room.
MARKS = (17, 0)
HEADING, ABOVE, MORE, LINE_BASE = 21, 5, 16, 15
# Between two parts where marks alone are shown.
PARTED = 8
WIDE, STRIP = 190, 40
NONE: Mapping[str, str] = {}


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


def entries(
    evaluation: Evaluation,
    stages: Sequence[Stage],
    refused: Mapping[str, str] = NONE,
    beside: Sequence[Finding] = (),
) -> list[StageLine]:
    """Every stage's answer, and the worst thing to notice there.

    ``refused`` is what was typed at a stage and not taken, which stands in place of its answer;
    ``beside`` are findings that are not of the evaluation.
    """
    return [
        StageLine(
            stage.key,
            stage.name,
            refused.get(stage.key) or answer_of(evaluation, stage),
            "warn" if stage.key in refused else state_of(evaluation, stage, beside),
            stage.part,
        )
        for stage in stages
    ]


def answer_of(evaluation: Evaluation, stage: Stage) -> str:
    """What a stage comes to, in a line."""
    return in_words(stage.answer(evaluation) if stage.applies(evaluation) else "not for this")


def state_of(evaluation: Evaluation, stage: Stage, beside: Sequence[Finding] = ()) -> str:
    """What the mark of a stage tells."""
    if not stage.applies(evaluation):
        return "none"
    found = worst((*evaluation.findings, *beside), stage.key)
    return "to do" if found == "fine" and not stage.begun(evaluation) else found


def worst(findings: Sequence[Finding], stage: str) -> str:
    """The worst severity among a stage's findings; notes leave it fine."""
    found = {item.severity for item in findings if item.stage == stage}
    return "stop" if "stop" in found else "warn" if "warn" in found else "fine"


def laid_out(
    parts: Sequence[str],
    room: float,
    current: int,
    px: Callable[[float], float],
    *,
    marks: bool = False,
) -> Laid:
    """Stages of these parts, one after the other, in the roomiest way that fits ``room`` px.

    Where nothing fits, it is the closest way, of which a part is in view. ``marks`` tells that they
    stand alone, without names, answers and headings.
    """
    heading = PARTED if marks else HEADING
    for high, gap in (ROOMY, CLOSE):
        laid = _laid(parts, [px(high)] * len(parts), px(gap), px, heading)
        if laid.height <= room:
            return laid
    tall = -1 if marks else current
    heights = [px(CLOSE[0] if place == tall else NAMES[0]) for place in range(len(parts))]
    laid = _laid(parts, heights, px(NAMES[1]), px, heading)
    if marks and laid.height > room:
        laid = _laid(parts, [px(MARKS[0])] * len(parts), px(MARKS[1]), px, heading)
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


class StageButton(QRadioButton):
    """A stage on the line: its mark, its name, and its answer where there is room for it."""

    def __init__(self, line: BuildLine, place: int) -> None:
        super().__init__(line)
        self._line, self._place = line, place
        self._said: tuple[StageLine, bool, int, bool] | None = None
        self.clicked.connect(lambda _=False: line.take(place))

    def show_entry(self, entry: StageLine, with_answer: bool, mark_y: int) -> None:
        """Show this; the mark's middle lies ``mark_y`` px under the top."""
        if (fresh := (entry, with_answer, mark_y, self._line.folded)) != self._said:
            self._said = fresh
            name = in_words(entry.name)
            self.setAccessibleName(f"{name}: {entry.answer}, {in_words(entry.severity)}")
            self.setToolTip(tip(f"{name}: {entry.answer}"))
            self.update()

    def hitButton(self, pos: QPoint) -> bool:
        return self.rect().contains(pos)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if step := step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._line.step(step)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._said is None:
            return
        painter, rect, here = QPainter(self), QRectF(self.rect()), self.isChecked()
        entry, with_answer, y, folded = self._said
        x = mark_x(folded)
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
        if folded:
            return
        left = THEME.px(46)
        width = rect.width() - left - THEME.px(6)
        painter.setPen(THEME.colour("soft" if entry.severity == "none" else "ink"))
        painter.setFont(THEME.font("stage", strong=here))
        box = QRectF(left, y - THEME.px(11), width, THEME.px(22))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(
            box, middle, elided(in_words(entry.name), int(width), "stage", strong=here)
        )
        if not with_answer:
            return
        role = {"stop": "crimson", "warn": "amber"}.get(entry.severity, "soft")
        painter.setPen(THEME.colour(role))
        painter.setFont(THEME.font("note", table=True))
        below = QRectF(left, min(box.bottom(), rect.bottom() - THEME.px(20)), width, THEME.px(18))
        painter.drawText(below, middle, elided(entry.answer, int(width), "note", table=True))


def mark_x(folded: bool) -> int:
    """How far from the left the marks of the line lie, in px."""
    return THEME.px((STRIP - 4) / 2 if folded else 26)


class BuildLine(QWidget):
    """The stages down the left as buttons, one of them open; Up and Down move, a click opens."""

    opened = pyqtSignal(str)

    def __init__(self, stages: Sequence[Stage] = STAGES) -> None:
        super().__init__()
        self._stages, self._keys = stages, [stage.key for stage in stages]
        self.entries: list[StageLine] = []
        self._current = self._keys[0]
        self.folded = False
        # How far down what is seen begins, where not all fits; None keeps the open one in view.
        self._moved: float | None = None
        self.buttons = [StageButton(self, place) for place in range(len(stages))]
        self._edge = _Edge(self)
        self.setAccessibleName(in_words("Build line"))
        self.setObjectName("paper")

    def show_evaluation(
        self,
        evaluation: Evaluation,
        current: str,
        refused: Mapping[str, str] = NONE,
        beside: Sequence[Finding] = (),
    ) -> None:
        """Show the answers of this evaluation, which stage is open, and where something waits.

        ``refused`` and ``beside`` are as in ``entries``.
        """
        stages = [it for it in self._stages if it.key == current or it.shown(evaluation)]
        self._keys = [stage.key for stage in stages]
        fresh = entries(evaluation, stages, refused, beside)
        if fresh != self.entries or current != self._current:
            if current != self._current:
                self._moved = None
            self.entries, self._current = fresh, current
            self._place()

    def take(self, place: int) -> None:
        """Open the stage at a place; it is shown as open once it is."""
        self.buttons[self._here].setChecked(True)
        self.opened.emit(self._keys[place])

    def step(self, step: int) -> None:
        """Open the stage above or below."""
        self.take(moved(self._here, step, len(self._keys)))
        self.setFocus()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._place()

    def _place(self) -> None:
        """Put the buttons where there is room for them, the open one in view."""
        if not self.entries:
            return
        laid, rects = self.laid(), self.rects()
        for button in self.buttons[len(rects) :]:
            button.hide()
        # There are as many buttons as stages, of which not all are shown.
        for place, (button, rect) in enumerate(zip(self.buttons, rects, strict=False)):
            button.show()
            button.setGeometry(rect.toRect())
            mark_y = round(self._mark_y(rect) - rect.top())
            answered = laid.answers or place == self._here
            button.show_entry(self.entries[place], answered, mark_y)
            at_hand = place == self._here
            button.setFocusPolicy(Qt.FocusPolicy.StrongFocus if at_hand else Qt.FocusPolicy.NoFocus)
        here = self.buttons[self._here]
        had = any(button.hasFocus() for button in self.buttons)
        here.setChecked(True)
        self.setFocusProxy(here)
        if had:
            here.setFocus()
        self._edge.setGeometry(self.rect())
        self._edge.raise_()
        self.update()

    def fold(self, folded: bool) -> None:
        """Show the marks alone, or all."""
        self.folded = folded
        if folded:
            self.setFixedWidth(THEME.px(STRIP))
        else:
            self.setMinimumWidth(THEME.px(166))
            self.setMaximumWidth(THEME.px(300))
        self._place()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(STRIP if self.folded else WIDE), THEME.px(300))

    def told(self) -> Told:
        """The stages as rows."""
        rows = [(item.name, item.part, item.severity, item.answer) for item in self.entries]
        return Told("Stages", ("stage", "part", "state", "answer"), rows)

    # Where things lie.

    def laid(self) -> Laid:
        """Where entries and headings lie, before anything is moved."""
        parts = [entry.part for entry in self.entries]
        return laid_out(parts, self.height(), self._here, THEME.px, marks=self.folded)

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
        shift, x = self._offset(laid), mark_x(self.folded)
        painter.setPen(THEME.colour("line"))
        for one, two in pairwise(rects):
            painter.drawLine(x, round(self._mark_y(one)), x, round(self._mark_y(two)))
        for part, top in laid.headings:
            self._paint_heading(painter, part, top - shift)

    def _mark_y(self, rect: QRectF) -> float:
        middle = rect.height() / 2
        return rect.top() + (middle if self.folded else min(THEME.px(LINE_BASE), middle))

    def _paint_heading(self, painter: QPainter, part: str, top: float) -> None:
        box = QRectF(THEME.px(12), top, self.width() - THEME.px(18), THEME.px(HEADING))
        if self.folded:
            return
        painter.fillRect(box, THEME.colour("paper"))
        painter.setPen(THEME.colour("soft"))
        painter.setFont(THEME.font("note", table=True))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, in_words(part))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and self.entries:
            steps = event.angleDelta().y() / 120.0
            self._moved = self._offset(self.laid()) - steps * THEME.px(NAMES[0])
            self._place()


class _Edge(QWidget):
    """Lies over the line: a sign at each edge beyond which stages lie, and how many."""

    def __init__(self, line: BuildLine) -> None:
        super().__init__(line)
        self._line = line
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._line.entries:
            return
        painter, high = QPainter(self), THEME.px(MORE)
        painter.setFont(THEME.font("note", table=True))
        above, below = self._line.beyond()
        for count, top, sign in ((above, 0, -1), (below, self.height() - high, 1)):
            if not count:
                continue
            box = QRectF(0, top, self.width(), high)
            painter.fillRect(box, THEME.colour("paper"))
            painter.setPen(THEME.colour("soft"))
            x, y, size = mark_x(self._line.folded), box.center().y(), THEME.px(4)
            painter.setBrush(THEME.colour("soft"))
            foot, tip_y = y - sign * size / 2, y + sign * size / 2
            corners = [QPointF(x - size, foot), QPointF(x + size, foot), QPointF(x, tip_y)]
            painter.drawPolygon(QPolygonF(corners))
            if not self._line.folded:
                room = box.adjusted(THEME.px(46), 0, 0, 0)
                painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, worded("{} more", count))
