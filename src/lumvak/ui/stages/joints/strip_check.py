"""Making: is the strip what it was sold as? A milliohm reading tells."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import walk
from lumvak.core.making.strip_check import check
from lumvak.ui.session import Session
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.quantity_field import QuantityField
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft


class StripCheck(QWidget):
    """What was measured on a strip, and the verdict."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.checks = [
            QuantityField(session, f"making.check_{name}", label, kind, optional=name == "mohm")
            for name, label, kind in (
                ("mohm", "Measured", units.MILLIOHM),
                ("meter_mohm", "Meter within ±", units.MILLIOHM),
                ("length_mm", "Between the probes", units.LENGTH_MM),
                ("width_mm", "Width", units.LENGTH_MM),
                ("thickness_mm", "Thickness", units.LENGTH_MM),
            )
        ]
        self.verdict = soft("", wrap=True)
        self.resistivity = FigureLabel(session, "check.resistivity", "resistivity", strong=True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(
            soft("Send a known current through a strip of known size, and read the drop between "
                 "two points on it; or use a meter with four wires.", wrap=True)
        )  # fmt: skip
        for field in self.checks:
            layout.addWidget(field)
        layout.addWidget(self.resistivity)
        self.verdict.setFont(THEME.font("section", strong=True))
        layout.addWidget(self.verdict)
        layout.addStretch(1)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what was measured, and what the strip is made of by it."""
        making = seen.project.making
        values = (making.check_mohm, making.check_meter_mohm, making.check_length_mm,
                  making.check_width_mm, making.check_thickness_mm)  # fmt: skip
        for field, value in zip(self.checks, values, strict=True):
            field.show_value(value, None)
        found = check(making)
        self.resistivity.setVisible(found is not None)
        if found is None:
            self.verdict.setText("Enter what the meter reads.")
            return
        self.session.add_figures(walk((found.resistivity,)), self.session.revision)
        self.resistivity.show_figure()
        self.verdict.setText(found.text + ".")
