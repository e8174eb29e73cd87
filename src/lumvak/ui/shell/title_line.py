"""The title line: the pack in words, never scrolled away."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, tip

NAMES = {"pack.cost": "cost"}
CENTRED = Qt.AlignmentFlag.AlignVCenter
FACTS = (
    "pack.parallel",
    "pack.voltage_nominal_v",
    "pack.capacity_ah",
    "pack.energy_wh",
    "pack.cell_count",
    "pack.mass_kg",
    "pack.cost",
)


class TitleLine(QWidget):
    """Project name, the facts of the pack, and whether it is saved."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("paper")
        self.name = EntryField()
        self.name.setAccessibleName(in_words("Name of the project"))
        self.name.setFont(THEME.font("title", strong=True))
        self.name.setFrame(False)
        self.name.setStyleSheet(
            f"QLineEdit {{ background: transparent; border-bottom-color: transparent;"
            f" font-size: {THEME.px(22)}px; font-weight: 600; }}"
            f"QLineEdit:focus {{ border-bottom-color: {THEME.colours.verdigris}; }}"
        )
        self.labels = [
            FigureLabel(session, key, NAMES.get(key, ""), strong=key == FACTS[0]) for key in FACTS
        ]
        self.state = plain("")
        self.state.setObjectName("soft")
        said: list[QWidget] = []
        for place, label in enumerate(self.labels):
            said += [QLabel("·"), label] if place else [label]
        self.facts = flowing(*said, gap=6)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(20), THEME.px(7), THEME.px(20), THEME.px(7))
        outer.setSpacing(THEME.px(2))
        self._top, self._below = QHBoxLayout(), QHBoxLayout()
        self._top.setSpacing(THEME.px(16))
        self._top.addWidget(self.name)
        self._top.addWidget(self.state, 0, Qt.AlignmentFlag.AlignRight)
        outer.addLayout(self._top)
        outer.addLayout(self._below)
        self._top.insertWidget(1, self.facts, 1, CENTRED)
        self.name.editingFinished.connect(self._rename)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the pack of an evaluation."""
        if not self.name.isModified() and self.name.text() != evaluation.project.name:
            self.name.setText(evaluation.project.name)
            self._fit_name()
        count = evaluation.figures["pack.cell_count"].value
        choice = evaluation.sized.choice
        words = {
            "pack.parallel": worded("{} in series, {} in parallel", choice.series, choice.parallel),
            "pack.cell_count": worded("{} cell" if count == 1 else "{} cells", say(count, "")),
        }
        for label in self.labels:
            label.show_figure(words.get(label.key, ""))

        self._place()

    def _place(self) -> None:
        """The facts beside the name where all fit, else in lines below it."""
        parts = (self.name.width(), self.facts.sizeHint().width(), self.state.sizeHint().width())
        below = sum(parts) + THEME.px(2 * 20 + 3 * 16) > self.width()
        if below != (self._top.indexOf(self.facts) < 0):
            (self._below if below else self._top).insertWidget(
                int(not below), self.facts, 1, Qt.AlignmentFlag(0) if below else CENTRED
            )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place()

    def minimumSizeHint(self) -> QSize:
        # Narrower than all in one line, for then the facts go below the name.
        return QSize(THEME.px(400), super().minimumSizeHint().height())

    def show_state(self) -> None:
        """Show whether the work is in a file."""
        if self.session.unsaved:
            self.state.setText(in_words("not saved"))
        else:
            self.state.setText(
                in_words("saved") if self.session.path is not None else in_words("new")
            )
        self.state.setToolTip(tip(str(self.session.path or "")))

    def _fit_name(self) -> None:
        metrics = QFontMetrics(THEME.font("title", strong=True))
        width = metrics.horizontalAdvance(self.name.text()) + THEME.px(14)
        self.name.setFixedWidth(min(max(width, THEME.px(90)), THEME.px(300)))

    def _rename(self) -> None:
        text = self.name.text().strip()
        self.name.setModified(False)
        if not text or not try_edit(self.session, {"name": text}, "name"):
            self.name.setText(self.session.project.name)
        self._fit_name()
