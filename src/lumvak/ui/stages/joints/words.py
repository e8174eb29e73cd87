"""What stands around the drawing of the pack on the table: legend, rows of groups, words."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.network import Flow, over_fair
from lumvak.ui.speech import round_figures, say, spoken, worded
from lumvak.ui.widgets.rows import Row
from lumvak.ui.widgets.theme import THEME

Array = NDArray[np.float64]
# Cells are coloured for at least this much over or under their fair share.
LEAST_SPAN = 0.2


class Legend(QWidget):
    """The ramps in use with their ends in words."""

    def __init__(self) -> None:
        super().__init__()
        self._ramps: tuple[tuple[str, str, str], ...] = ()
        self.setFixedHeight(THEME.px(30))
        self.setMinimumWidth(THEME.px(300))

    def show_ramps(self, *ramps: tuple[str, str, str]) -> None:
        """Show ramps of the theme by name, each with what its low and its high end stand for."""
        if ramps != self._ramps:
            self._ramps = ramps
            self.setAccessibleName(
                "; ".join(worded("{} to {}", low, high) for _, low, high in ramps)
            )
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(330), THEME.px(30))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(THEME.font("note", table=True))
        wide, high = THEME.px(150), THEME.px(9)
        for place, (ramp, low, top) in enumerate(self._ramps):
            left = place * (wide + THEME.px(20))
            for step in range(wide):
                painter.fillRect(
                    QRectF(left + step, THEME.px(4), 1.2, high), THEME.ramp(ramp, step / wide)
                )
            painter.setPen(THEME.colour("soft"))
            below = QRectF(left, THEME.px(14), wide, THEME.px(16))
            painter.drawText(below, Qt.AlignmentFlag.AlignLeft, low)
            painter.drawText(below, Qt.AlignmentFlag.AlignRight, top)


def group_rows(joined_pack: JoinedPack) -> list[Row]:
    """A row a group: the least and the most that its cells give, and how far apart they are."""
    if joined_pack.flow is None:
        return []
    layout = joined_pack.layout
    amps = joined_pack.flow.cell_a.reshape(layout.series, layout.parallel)
    volts = (joined_pack.flow.terminal_v[0::2] - joined_pack.flow.terminal_v[1::2]).reshape(
        amps.shape
    )
    rows = []
    for group, own in enumerate(amps):
        most, least = int(own.argmax()), int(own.argmin())
        first = group * layout.parallel
        rows.append(
            Row(
                (
                    str(group + 1),
                    f"{say(float(own[most]), 'A')}, {layout.name[first + most]}",
                    f"{say(float(own[least]), 'A')}, {layout.name[first + least]}",
                    say(float(np.ptp(own)), "A"),
                    say(float(np.ptp(own) / max(abs(own.mean()), 1e-9)), "%"),
                    say(float(volts[group].mean()), "V"),
                ),
                key=group,
            )
        )
    return rows


def over_shown(joined_pack: JoinedPack, flow: Flow | None) -> Array | None:
    """(N,) how far each cell works over (+) or under (-) its fair share, of the widest shown."""
    if flow is None:
        return None
    over = over_fair(flow, joined_pack.layout.parallel)
    return np.clip(over / max(LEAST_SPAN, float(np.abs(over).max())), -1.0, 1.0)


def piece_words(joined_pack: JoinedPack, piece: int, flow: Flow | None) -> str:
    """A piece in words: what it is, what it carries, how warm it gets."""
    text = spoken(joined_pack.pieces.name(piece))
    if flow is None:
        return text
    amps = abs(float(flow.piece_a[piece]))
    text += worded(
        ": {}, {} mW", say(amps, "A"), round_figures(float(flow.piece_w[piece]) * 1000.0)
    )
    if joined_pack.carried is not None:
        limit = float(joined_pack.carried.pack_limit_a[piece])
        if math.isfinite(limit):
            text += worded("; at its limit when the pack gives {}", say(limit, "A"))
    return text
