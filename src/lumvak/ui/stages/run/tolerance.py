"""How sure is the run? Spreads to draw packs from, and what came of them."""

from __future__ import annotations

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QProgressBar, QPushButton, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.run.tolerance import Tolerance, tolerance, tolerance_figures
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft
from lumvak.ui.work import Report, Work

IDLE_MS = 350
FACTS = (
    ("tolerance.chance", "meets the need"),
    ("tolerance.low_h", "19 of 20 run"),
    ("tolerance.middle_h", "half run"),
    ("tolerance.high_h", "1 of 20 runs"),
)


class TolerancePanel(QWidget):
    """Off until it is asked for; then drawn anew a moment after each edit."""

    drawn = pyqtSignal(object)
    dropped = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.work = Work()
        self._revision = -1
        self._number = 0
        self.switch = ChoiceRow(((False, "as designed"), (True, "with tolerance")), "Tolerance")
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(FACTS)
        ]
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setTextVisible(False)
        self.bar.setFixedSize(THEME.px(160), THEME.px(8))
        self.bar.setAccessibleName(in_words("Packs drawn"))
        self.cancel = QPushButton("stop")
        self.said = soft("")
        self.fields = {
            name: small_field(session, f"run.{name}", label, width=36)
            for name, label in (
                ("capacity_spread", "capacity ±"),
                ("resistance_spread", "resistance ±"),
                ("ambient_spread_k", "ambient ±"),
                ("load_spread", "load ±"),
                ("draws", "packs"),
                ("seed", "seed"),
            )
        }
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(IDLE_MS)
        self.timer.timeout.connect(self.start)
        self.spreads = flowing(*self.fields.values(), gap=8)
        row = flowing(self.switch, self.bar, self.cancel, *self.labels, self.said, gap=12)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(2))
        outer.addWidget(row)
        outer.addWidget(self.spreads)
        self.switch.picked.connect(self.turn)
        self.cancel.clicked.connect(self._stop)
        self.work.progressed.connect(self._progress)
        self.work.done.connect(self.take_result)
        self.work.failed.connect(self._failed)
        self.destroyed.connect(self.work.end)
        self._show_state()

    def turn(self, on: bool) -> None:
        """Draw packs from now on, or no more."""
        self.switch.show_value(on)
        if on:
            self.start()
        else:
            self._stop()

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the spreads; what was drawn for another state is dropped and drawn anew."""
        if self.session.revision == self._revision:
            return
        self._revision = self.session.revision
        self.work.cancel()
        self.said.setText("")
        self.dropped.emit()
        if self.switch.value:
            self.timer.start()
        self._show_state()

    def start(self) -> None:
        evaluation, settings = self.session.evaluation, self.session.project.run
        sized_pack, pack, hours = (
            evaluation.sized.sized_pack,
            evaluation.run.pack,
            evaluation.run.run.hours,
        )
        off = evaluation.sized.in_hand.capacity_off
        if not self.switch.value:
            return
        self._revision = self.session.revision
        self.said.setText("")
        if hours <= 0.0:
            self.said.setText(in_words("the pack as designed does not run at all"))
            self._show_state()
            return

        def task(report: Report) -> object:
            return tolerance(sized_pack, pack, hours, settings, report, off)

        self.bar.setValue(0)
        self.work.start(task, self._revision)
        self._show_state()

    def _stop(self) -> None:
        self.timer.stop()
        self.work.cancel()
        if self.switch.value:
            self.said.setText(in_words("stopped; an edit draws anew"))
        self.dropped.emit()
        self._show_state()

    def _progress(self, number: int, share: float) -> None:
        if self.work.listens(number):
            self.bar.setValue(round(share * 100.0))

    def take_result(self, result: object, revision: object) -> None:
        if not isinstance(result, Tolerance) or not isinstance(revision, int):
            return
        evaluation = self.session.evaluation
        figures = tolerance_figures(
            result,
            evaluation.figures["run.time_h"],
            evaluation.sized.demand,
            evaluation.project.run,
            evaluation.sized.in_hand.capacity_off,
        )
        if self.session.add_figures(figures, revision):
            self._show_state()
            self.drawn.emit(result)

    def _failed(self, text: str) -> None:
        self.said.setText(worded("not drawn: {}", text))
        self._show_state()

    def _show_state(self) -> None:
        on = bool(self.switch.value)
        waiting = on and (self.work.busy or self.timer.isActive())
        self.bar.setVisible(waiting)
        self.cancel.setVisible(waiting)
        self.spreads.setVisible(on)
        for label in self.labels:
            known = on and not waiting and self.session.figure(label.key) is not None
            label.setVisible(known)
            if known:
                label.show_figure()
        self.said.setVisible(bool(self.said.text()))
