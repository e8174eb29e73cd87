"""A joint as it is seen from above: two groups and the strips between them."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen

from lumvak.core.joints.candidates import ROLE_NOUNS, layers_name
from lumvak.core.joints.joint_figures import JointResult
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing

MOST_DRAWN = 10


class JointDrawing(Drawing):
    """The joint from above, to scale: two groups and the strips across, or one group along."""

    def __init__(self) -> None:
        super().__init__()
        self._result: JointResult | None = None
        self.setMinimumSize(THEME.px(170), THEME.px(120))

    def show_result(self, result: JointResult, gap_mm: float, take_off: str, school: str) -> None:
        """Draw this joint."""
        self._result, self._gap, self._take_off = result, gap_mm, take_off
        chosen = result.chosen
        self._bursts = not chosen.carries(result.setting, school)
        self.setAccessibleName(
            worded(
                "{} of {} × {}", ROLE_NOUNS[result.setting.role], chosen.strips, spoken(chosen.name)
            )
        )
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(230), THEME.px(128))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """It is long, for a drawing is one stroke after the other."""
        if self._result is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        setting, chosen, cell = self._result.setting, self._result.chosen, self._result.setting.cell
        across, along = cell.footprint_mm
        shown = min(setting.parallel, MOST_DRAWN)
        groups = 2 if setting.role == "series" and setting.joints else 1
        pitch_x, pitch_y = across + self._gap, along + self._gap
        room = QRectF(0, 0, self.width(), self.height() - THEME.px(36))
        scale = min(room.width() / (shown * pitch_x), room.height() / (groups * pitch_y))
        scale = min(scale, THEME.px(96) / max(pitch_x, pitch_y))
        board = QRectF(0, 0, shown * pitch_x * scale, groups * pitch_y * scale)
        board.moveCenter(room.center())

        def centre(group: int, place: float) -> QPointF:
            return QPointF(
                board.left() + (place + 0.5) * pitch_x * scale,
                board.top() + (group + 0.5) * pitch_y * scale,
            )

        painter.setPen(QPen(THEME.colour("soft"), 1.2))
        painter.setBrush(THEME.colour("paper"))
        for group in range(groups):
            for place in range(shown):
                box = QRectF(0, 0, across * scale, along * scale)
                box.moveCenter(centre(group, place))
                if cell.diameter_mm is not None:
                    painter.drawEllipse(box)
                else:
                    painter.drawRect(box)
        fill = QColor(THEME.colour("copper_wash"))
        fill.setAlphaF(0.8)
        painter.setPen(QPen(THEME.colour("crimson" if self._bursts else "copper"), 1.4))
        painter.setBrush(fill)
        overhang = min(THEME.px(6), pitch_y * scale / 4)
        width = chosen.width_mm * scale
        if groups == 2:
            strips = min(chosen.strips, shown)
            width = min(width, board.width() / strips - 2)
            top, bottom = centre(0, 0).y() - overhang, centre(1, 0).y() + overhang
            for strip in range(strips):
                x = centre(0, (strip + 0.5) * shown / strips - 0.5).x()
                self._stack(painter, QRectF(x - width / 2, top, width, bottom - top))
        elif setting.role == "group" and shown > 1:
            first, last = centre(0, 0), centre(0, shown - 1)
            self._stack(
                painter,
                QRectF(
                    first.x() - overhang,
                    first.y() - width / 2,
                    last.x() - first.x() + 2 * overhang,
                    width,
                ),
            )
            painter.setBrush(THEME.colour("copper"))
            leaving = {
                "end": [0.0],
                "middle": [(shown - 1) / 2],
                "spread": list(map(float, range(shown))),
            }
            for spot in leaving[self._take_off]:
                painter.drawEllipse(centre(0, spot), THEME.px(5), THEME.px(5))
        self._caption(painter, shown, groups)

    def _stack(self, painter: QPainter, box: QRectF) -> None:
        """One strip, its layers shifted a little so that they can be counted."""
        assert self._result is not None
        for layer in range(self._result.chosen.layers):
            shift = layer * THEME.px(2)
            painter.drawRect(box.translated(shift, shift))

    def _caption(self, painter: QPainter, shown: int, groups: int) -> None:
        assert self._result is not None
        setting, chosen = self._result.setting, self._result.chosen
        what = worded("{} groups of {}", groups, setting.parallel) if groups == 2 else "one group"
        if setting.role == "group" and setting.parallel > 1:
            what = worded("end group of {}, dot: main lead", setting.parallel)
        elif setting.role == "group":
            what = "one cell in parallel: nothing to join"
        cut = worded(", {} drawn", shown) if shown < setting.parallel else ""
        painter.setPen(THEME.colour("soft"))
        painter.setFont(THEME.font("note", table=True))
        painter.drawText(
            QRectF(0, self.height() - THEME.px(35), self.width(), THEME.px(35)),
            Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
            worded(
                "{}{}; {} wide, {}",
                what,
                cut,
                say(chosen.width_mm, in_words("mm")),
                spoken(layers_name(chosen.layers)),
            ),
        )
