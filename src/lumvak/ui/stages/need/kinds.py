"""What each kind of equipment is asked besides: motor and wheel, the old pack, the lead gear."""

from __future__ import annotations

from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import FieldChoice, QuantityField, small_field
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, side_by_side, soft

NO_YES = ((False, "no"), (True, "yes"))
TITLES = {
    "vehicle": "Motor and wheel",
    "tool": "The old pack and its tool",
    "supply": "In place of lead",
    "portable": "What it replaces",
}


class KindPanel(QWidget):
    """The questions of one kind of equipment; those of the others are hidden."""

    def __init__(self, session: Session) -> None:
        """It is long, for it names the fields of all kinds of equipment."""
        super().__init__()
        self.title = heading("")

        def make(name: str, label: str) -> QuantityField:
            return QuantityField(session, f"need.{name}", label)

        self.fields = {
            "controller_limit_a": make("controller_limit_a", "Controller limit"),
            "nickel_cells": make("nickel_cells", "Nickel cells"),
            "old_charger_stop_v": make("old_charger_stop_v", "Charger stopped at"),
            "stall_current_a": make("stall_current_a", "Stall"),
        }
        self.small = {
            "motor_kv": small_field(session, "need.motor_kv", "Motor"),
            "wheel_mm": small_field(session, "need.wheel_mm", "wheel"),
            "gear": small_field(session, "need.gear", "gear"),
            "replaced_voltage_v": small_field(session, "need.replaced_voltage_v", "Was"),
            "replaced_capacity_ah": small_field(session, "need.replaced_capacity_ah", ""),
            "replaced_mass_kg": small_field(session, "need.replaced_mass_kg", ""),
            "replaced_cost": small_field(session, "need.replaced_cost", ""),
        }
        self.contacts = FieldChoice(
            session,
            "need.contacts",
            ((None, "not known"), (2, "two"), (3, "three")),
            "Contacts of the old pack",
        )
        self.lead_replaced = FieldChoice(
            session, "need.lead_replaced", NO_YES, "Replaces lead one for one"
        )
        self.lead_charger = FieldChoice(
            session, "need.lead_charger", NO_YES, "The lead charger stays"
        )
        self.speeds = [
            FigureLabel(session, "motion.nominal_kmh", "rolls", strong=True),
            FigureLabel(session, "motion.full_kmh", "when full"),
            FigureLabel(session, "motion.nominal_rpm", "motor"),
        ]
        self.rows = {
            "controller": (self.fields["controller_limit_a"], ("vehicle",)),
            "motion": (
                side_by_side(*(self.small[name] for name in ("motor_kv", "wheel_mm", "gear"))),
                ("vehicle",),
            ),
            "speed": (side_by_side(*self.speeds), ("vehicle",)),
            "nickel": (self.fields["nickel_cells"], ("tool",)),
            "charger": (self.fields["old_charger_stop_v"], ("tool",)),
            "stall": (self.fields["stall_current_a"], ("tool",)),
            "contacts": (side_by_side(soft("Contacts of the old pack"), self.contacts), ("tool",)),
            "lead": (
                side_by_side(soft("Replaces lead one for one"), self.lead_replaced),
                ("supply",),
            ),
            "lead charger": (
                side_by_side(soft("The lead charger stays"), self.lead_charger),
                ("supply",),
            ),
            "replaced": (
                side_by_side(
                    *(
                        self.small[f"replaced_{name}"]
                        for name in ("voltage_v", "capacity_ah", "mass_kg", "cost")
                    )
                ),
                ("tool", "supply", "portable"),
            ),
        }
        self.step_by_step = QPushButton("the conversion, step by step")
        self.step_by_step.clicked.connect(lambda: session.wanted.emit("record/conversion"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(THEME.px(5))
        column.addWidget(self.title)
        for row, _ in self.rows.values():
            column.addWidget(row)
        column.addWidget(flowing(self.step_by_step))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the questions of this kind, and what is known."""
        need = evaluation.project.need
        self.title.setText(TITLES[need.kind])
        self.step_by_step.setVisible(need.kind == "tool" and need.nickel_cells is not None)
        for row, kinds in self.rows.values():
            row.setVisible(need.kind in kinds)
        for label in self.speeds:
            known = label.key in evaluation.figures
            label.setVisible(known)
            if known:
                label.show_figure()
        if not any(label.key in evaluation.figures for label in self.speeds):
            self.rows["speed"][0].hide()
