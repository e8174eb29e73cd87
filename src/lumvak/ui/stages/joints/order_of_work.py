"""Making: in which order to lay the pieces, and what to cover meanwhile."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.core.making.order_of_work import WorkStep
from lumvak.ui.speech import say, spoken, worded
from lumvak.ui.stages.joints.cut_list import ShownPieces
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows

STEPS = (
    Column("", left=True),
    Column(
        "do, and cover",
        left=True,
        stretch=True,
        wraps=True,
        tip="What to join now, and what must be covered meanwhile",
    ),
    Column("pieces", tip="How many pieces are joined in this step"),
    Column("volts", tip="The most that stands between two bare places of the pack then"),
)


def shown_in(evaluation: Evaluation, step: WorkStep) -> ShownPieces:
    """What lies and what is bare in a step of the work."""
    everything = frozenset(range(len(evaluation.laid_out.joined_pack.layout)))
    under = tuple(
        everything - step.bare if step.face in (-1, face) else everything
        for face in (FACE_A, FACE_B)
    )
    away = frozenset(range(len(evaluation.laid_out.joined_pack.pieces))) - (step.now | step.done)
    return ShownPieces(step.now, away, (under[0], under[1]))


class OrderOfWork(QWidget):
    """The steps of the work; ``changed`` when another one was picked."""

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.steps = RowsTable(STEPS, "Order of work")
        self.step = 0
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.steps, 1)
        keep_rows(self.steps, 8)
        self.steps.picked.connect(self._pick)

    def show_order(self, evaluation: Evaluation) -> ShownPieces:
        """List the steps; tells what lies and what is bare in the one that was picked."""
        steps = steps_in_hand(evaluation)
        self.step = min(self.step, len(steps) - 1)
        rows = []
        for place, item in enumerate(steps):
            here = place == self.step
            marks = {3: "amber"} if item.volts > TOUCH_SAFE_V else {}
            count = str(item.count) if item.count else ""
            rows.append(
                Row(
                    (str(place + 1), f"{spoken(item.text)}.", count, say(item.volts, "V")),
                    value=place,
                    chosen=here,
                    key=place,
                    marks=marks,
                )
            )
            rows.append(
                Row(
                    ("", worded("cover {}", spoken(item.cover)), "", ""),
                    value=place,
                    faded=True,
                    key=(place, "cover"),
                )
            )
        self.steps.show_rows(rows)
        return shown_in(evaluation, steps[self.step])

    def _pick(self, place: int) -> None:
        self.step = place
        self.changed.emit()
