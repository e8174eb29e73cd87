"""Stage: the need. What is to be powered, and what limits it sets."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.stages.need.drawing import NeedDrawing
from lumvak.ui.stages.need.duty import DutyPanel
from lumvak.ui.stages.need.kinds import KindPanel
from lumvak.ui.stages.need.rails import RailsPanel
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page, on_sheet
from lumvak.ui.widgets.quantity_field import FieldChoice, QuantityField, small_field, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, side_by_side, soft

KINDS = (
    ("vehicle", "light vehicle"),
    ("tool", "cordless tool"),
    ("supply", "fixed supply"),
    ("portable", "portable supply"),
)
TWO_COLUMNS_PX = 690
ENCLOSURES = (("closed", "closed in"), ("still", "in still air"), ("moving", "in moving air"))
LOADS = (("current", "amps"), ("power", "watts"), ("duty", "duty"), ("rails", "rails"))
BASES = (
    ("runtime", "run time"),
    ("capacity", "Ah"),
    ("energy", "Wh"),
    ("distance", "km"),
    ("appliances", "as listed"),
    ("open", "open"),
)


class NeedStage(Page):
    """The fields of the need, in two columns, and the need drawn below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        on_sheet(self)
        body = scrolled_body(self)
        outer = QVBoxLayout(body)
        outer.setContentsMargins(THEME.px(24), THEME.px(12), THEME.px(20), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        title = heading("What is to be powered?")
        self.kind = ChoiceRow(KINDS, "Equipment")
        self.kind.picked.connect(self._pick_kind)
        outer.addWidget(flowing(title, self.kind, gap=28))
        self._make_fields()
        turning = Turning(TWO_COLUMNS_PX, 28)
        turning.columns.addLayout(self._left(), 1)
        turning.columns.addLayout(self._right(), 1)
        # Above the fields, where it is in view however many they are.
        self.drawing = NeedDrawing()
        outer.addWidget(self.drawing)
        outer.addWidget(turning)
        outer.addWidget(self.rails)
        outer.addStretch(1)

    def _field(self, name: str, label: str) -> QuantityField:
        return QuantityField(self.session, f"need.{name}", label)

    def _make_fields(self) -> None:
        """It is long, for it lists the fields one after the other."""
        make = self._field
        self.fields = {
            "rated_voltage_v": make("rated_voltage_v", "Rated voltage"),
            "max_voltage_v": make("max_voltage_v", "Maximum voltage"),
            "stop_voltage_v": make("stop_voltage_v", "Low-voltage cut-off"),
            "current_a": make("current_a", "Continuous"),
            "power_w": make("power_w", "Continuous"),
            "efficiency": make("efficiency", "Efficiency"),
            "peak_current_a": make("peak_current_a", "Peak"),
            "peak_duration_s": make("peak_duration_s", "Peak lasts"),
            "runtime_h": make("runtime_h", "Run time"),
            "capacity_ah": make("capacity_ah", "Capacity"),
            "energy_wh": make("energy_wh", "Energy"),
            "distance_km": make("distance_km", "Distance"),
            "consumption_wh_per_km": make("consumption_wh_per_km", "Consumption"),
            "coldest_c": small_field(self.session, "need.coldest_c", "coldest", width=64),
            "ambient_c": small_field(self.session, "need.ambient_c", "warmest", width=64),
            "charger_voltage_v": small_field(
                self.session, "need.charger_voltage_v", "Charger", width=70
            ),
            "charger_current_a": small_field(
                self.session, "need.charger_current_a", "gives", width=70
            ),
        }
        session = self.session
        self.ceiling = small_field(
            session,
            "pack.ceiling_v",
            "charge voltage per cell",
            width=60,
            figure="cell.voltage_full_v",
        )
        self.warm_limit = small_field(
            session, "pack.temperature_limit_c", "Max. cell temperature", width=60
        )
        self.enclosure = FieldChoice(session, "pack.enclosure", ENCLOSURES, "Cooling")
        self.reserves = {
            origin: QuantityField(
                session, f"pack.ageing_{origin}", worded("Usable after ageing, {}", origin)
            )
            for origin in ("new", "reclaimed")
        }
        self.load_basis = FieldChoice(
            session,
            "need.load_basis",
            LOADS,
            "Load given as",
        )
        self.peak_given = FieldChoice(
            session,
            "need.peak_given",
            (("measured", "measured"), ("estimated", "estimated")),
            "The peak is",
        )
        self.peak_word = soft("The peak is")
        self.peak_given_row = side_by_side(self.peak_word, self.peak_given)
        self.duty = DutyPanel(session)
        self.rails = RailsPanel(session)
        self.of_kind = KindPanel(session)
        self.endurance_basis = FieldChoice(session, "need.endurance_basis", BASES, "How long")

    def _left(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(5))
        voltage = heading("Voltage")
        voltage.setMinimumHeight(THEME.px(28))
        column.addWidget(voltage)
        for name in ("rated_voltage_v", "max_voltage_v", "stop_voltage_v"):
            column.addWidget(self.fields[name])
        column.addSpacing(THEME.px(4))
        column.addWidget(heading("How long?"))
        column.addWidget(self.endurance_basis)
        for name in (
            "runtime_h",
            "capacity_ah",
            "energy_wh",
            "distance_km",
            "consumption_wh_per_km",
        ):
            column.addWidget(self.fields[name])
        for field in self.reserves.values():
            column.addWidget(field)
        self.open_note = soft("The parallel count then follows from the currents alone.", wrap=True)
        column.addWidget(self.open_note)
        column.addSpacing(THEME.px(4))
        column.addWidget(self.of_kind)
        column.addStretch(1)
        return column

    def _right(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(5))
        head = QHBoxLayout()
        head.addWidget(heading("Load"))
        head.addStretch(1)
        head.addWidget(self.load_basis)
        column.addLayout(head)
        for name in ("current_a", "power_w"):
            column.addWidget(self.fields[name])
        column.addWidget(self.duty)
        for name in ("efficiency", "peak_current_a", "peak_duration_s"):
            column.addWidget(self.fields[name])
        column.addWidget(self.peak_given_row)
        column.addSpacing(THEME.px(4))
        column.addWidget(heading("Ambient"))
        column.addWidget(side_by_side(self.fields["coldest_c"], self.fields["ambient_c"]))
        column.addWidget(self.warm_limit)
        column.addWidget(self.ceiling)
        column.addWidget(
            side_by_side(self.fields["charger_voltage_v"], self.fields["charger_current_a"])
        )
        around = QHBoxLayout()
        around.addWidget(soft("Cooling"))
        around.addWidget(self.enclosure)
        around.addStretch(1)
        column.addLayout(around)
        column.addStretch(1)
        return column

    def _pick_kind(self, kind: str) -> None:
        """Take the kind, and the way its load is usually given."""
        need = self.session.project.need
        changes: dict[str, object] = {"need.kind": kind}
        if kind == "portable":
            changes.update({"need.load_basis": "rails", "need.endurance_basis": "appliances"})
        else:
            if need.load_basis == "rails":
                changes["need.load_basis"] = "power" if kind == "supply" else "current"
            if need.endurance_basis == "appliances":
                changes["need.endurance_basis"] = "runtime"
        try_edit(self.session, changes, "equipment")

    def take_file(self, path: Path) -> None:
        try_edit(self.session, {"need.load_basis": "duty"}, "duty")
        self.duty.take_log(path)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the need as it is, and what is taken for what was not said."""
        need = evaluation.project.need
        self.kind.show_value(need.kind)
        self.duty.setVisible(need.load_basis == "duty")
        self.duty.show_need(need)
        portable = need.kind == "portable"
        self.load_basis.offer(
            [
                item
                for item in LOADS
                if portable or item[0] in ("current", "power", "duty", need.load_basis)
            ]
        )
        self.endurance_basis.offer(
            [
                item
                for item in BASES
                if portable or item[0] in (need.endurance_basis,) or item[0] != "appliances"
            ]
        )
        tool = need.kind == "tool"
        self.peak_given_row.setVisible(
            need.peak_current_a is not None or (tool and need.stall_current_a is not None)
        )
        self.peak_word.setText(in_words("Surge and stall are") if tool else in_words("The peak is"))
        shown = {
            "current_a": need.load_basis == "current",
            "power_w": need.load_basis == "power",
            "efficiency": need.load_basis == "power"
            or (need.load_basis == "duty" and need.duty_unit == "W"),
            "runtime_h": need.endurance_basis == "runtime",
            "capacity_ah": need.endurance_basis == "capacity",
            "energy_wh": need.endurance_basis == "energy",
            "distance_km": need.endurance_basis == "distance",
            "consumption_wh_per_km": need.endurance_basis == "distance",
        }
        for name, field in self.fields.items():
            field.setVisible(shown.get(name, True))
        for name, field in self.reserves.items():
            field.setVisible(name == evaluation.sized.choice.cell.origin)
        self.of_kind.show_evaluation(evaluation)
        rails = "rails" if need.load_basis == "rails" else need.endurance_basis
        self.rails.setVisible(rails in ("rails", "appliances"))
        self.rails.show_evaluation(evaluation)
        self.open_note.setVisible(need.endurance_basis == "open")
        self.drawing.show_evaluation(evaluation)
