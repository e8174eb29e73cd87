"""The title line: the pack in words, never scrolled away."""

from __future__ import annotations

from PyQt6.QtGui import QFontMetrics
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.units import say
from lumvak.ui.session import Session
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, tip

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
        self.name = QLineEdit()
        self.name.setAccessibleName("Name of the project")
        self.name.setFont(THEME.font("title", strong=True))
        self.name.setFrame(False)
        self.name.setStyleSheet(
            f"QLineEdit {{ background: transparent; border-bottom-color: transparent;"
            f" font-size: {THEME.px(22)}px; font-weight: 600; }}"
            f"QLineEdit:focus {{ border-bottom-color: {THEME.colours.verdigris}; }}"
        )
        self.labels = [FigureLabel(session, key, "", strong=key == FACTS[0]) for key in FACTS]
        self.state = plain("")
        self.state.setObjectName("soft")
        layout = QHBoxLayout(self)
        layout.setContentsMargins(THEME.px(20), THEME.px(7), THEME.px(20), THEME.px(7))
        layout.setSpacing(THEME.px(6))
        layout.addWidget(self.name)
        layout.addSpacing(THEME.px(10))
        for place, label in enumerate(self.labels):
            if place:
                layout.addWidget(QLabel("·"))
            layout.addWidget(label)
        layout.addStretch(1)
        layout.addWidget(self.state)
        self.name.editingFinished.connect(self._rename)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show the pack of an evaluation."""
        if not self.name.isModified() and self.name.text() != seen.project.name:
            self.name.setText(seen.project.name)
            self._fit_name()
        count = seen.figures["pack.cell_count"].value
        words = {
            "pack.parallel": f"{seen.choice.series} in series, {seen.choice.parallel} in parallel",
            "pack.cell_count": f"{say(count, '')} {'cell' if count == 1 else 'cells'}",
        }
        for label in self.labels:
            label.show_figure(words.get(label.key, ""))

    def show_state(self) -> None:
        """Show whether the work is in a file."""
        if self.session.unsaved:
            self.state.setText("not saved")
        else:
            self.state.setText("saved" if self.session.path is not None else "new")
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
