"""Conductors: strip, sheet or busbar for the series and the group joints, judged."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
)

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import Candidate, Setting
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.said import phrase
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, round_figures, say, spoken
from lumvak.ui.stages.joints.section_drawing import JointDrawing
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import FieldChoice, QuantityField, try_edit
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.sentence import Sentence
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

if TYPE_CHECKING:
    from lumvak.ui.stages.joints.rise_plot import RisePlot

# Narrower, the columns go below each other.
THREE_COLUMNS_PX = 760
ROLES = (("series", "series connections"), ("group", "group strips"))
SCHOOLS = (("temperature", "temperature"), ("rule", "density"), ("loss", "loss"))
TAKE_OFFS = (("end", "one end"), ("middle", "middle"), ("spread", "every cell"))
MILLI = "mΩ"
COLUMNS = (
    Column("conductor", left=True, stretch=True, tip="Strip, sheet or busbar of the catalogue"),
    Column("layers", tip="One on the other"),
    Column("strips", tip="Side by side in one connection"),
    Column(MILLI, tip="One connection, cold"),
    Column("mV", tip="Lost in one connection at the continuous current"),
    Column("W/cell", tip="Heat that such connections put into a cell between two of them"),
    Column("A/mm²", tip="Current density at the continuous current"),
    Column("rise K", tip="Over the cell, at the continuous current"),
    Column("by temperature", tip="Pack current it carries at the rise allowed"),
    Column("by density", tip="Pack current it carries by current density, amps per mm²"),
    Column("by loss", tip="Pack current it carries at the drop allowed"),
)
SCHOOL_COLUMN = {"temperature": 8, "rule": 9, "loss": 10}
COLUMN_FIGURES = (
    "thickness_mm", "layers", "strips", "resistance_ohm", "drop_mv", "cell_w",
    "density_a_per_mm2", "rise_k",
    "limit_temperature_a", "limit_rule_a", "limit_loss_a",
)  # fmt: skip
RULES = ((5.0, "cautious"), (10.0, "bold"))


class ConductorsView(Page):
    """What is in force, drawn and in figures; below it every candidate."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.rise_plot: RisePlot | None = None
        self._state: tuple[Any, ...] = ()
        self.role = ChoiceRow(ROLES, "Which conductors")
        self.role.picked.connect(self._show_role)
        self.drawing = JointDrawing()
        self.picture = QStackedWidget()
        self.picture.addWidget(self.drawing)
        self.picture.setMaximumHeight(THEME.px(176))
        self.view = ChoiceRow((("drawn", "drawn"), ("rise", "rise")), "Picture of the connection")
        self.view.picked.connect(self._show_view)
        self.table = RowsTable(COLUMNS, "Candidates for the conductor")
        self.table.setObjectName("joints.series.part")
        self.proposal = Sentence(session)
        self.follow = QPushButton("take the recommended")
        self.follow.clicked.connect(lambda: self._set(part=None, width_mm=None, layers=None))
        self.refused = QPushButton("show those that cannot be joined")
        self.refused.setCheckable(True)
        self.refused.toggled.connect(lambda _: self.show_evaluation(session.evaluation))
        self.school = FieldChoice(session, "joints.school", SCHOOLS, "Sizing criterion")
        self.take_off = ChoiceRow(TAKE_OFFS, "Main lead leaves from")
        self.take_off.setObjectName("joints.take_off")
        self.take_off.picked.connect(self._set_take_off)
        self.rule_presets = [QPushButton(name) for _, name in RULES]
        for button, (value, _) in zip(self.rule_presets, RULES, strict=True):
            button.clicked.connect(
                lambda _, v=value: try_edit(session, {"joints.rule_a_per_mm2": v})
            )
        self.weld = self._field("joints.weld_k_per_w", "Weld")
        self.fields = {
            "rise_limit_k": self._field("joints.rise_limit_k", "Rise allowed"),
            "rule_a_per_mm2": self._field("joints.rule_a_per_mm2", "Density"),
            "loss_mv": self._field("joints.loss_mv", "Drop allowed"),
            "gap_mm": self._field("joints.gap_mm", "Gap of cells"),
            "welder_limit_mm": self._field("joints.welder_limit_mm", "Welder joins"),
        }
        self.strip_fields: dict[str, dict[str, QuantityField]] = {
            role: {
                "layers": self._field(f"joints.{role}.layers", "Layers"),
                "strips": self._field(f"joints.{role}.strips", "Strips"),
                "width_mm": self._field(f"joints.{role}.width_mm", "Width"),
            }
            for role, _ in ROLES
        }
        self.labels = [
            FigureLabel(session, "", name, strong=place == 0)
            for place, name in enumerate(("carries", "joint", "drop", "heat", "all", "rise"))
        ]
        self._lay_out()
        self.table.picked.connect(self._pick)
        self.table.cell_clicked.connect(
            lambda _, place: session.explain(f"joints.{self.role.value}.{COLUMN_FIGURES[place]}")
        )

    def _field(self, path: str, label: str) -> QuantityField:
        field = QuantityField(self.session, path, label, width=70)
        layout = field.layout()
        if isinstance(layout, QGridLayout):
            layout.setColumnMinimumWidth(0, THEME.px(82))
        field.note.hide()
        return field

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(
                self.role,
                soft("as if the current were shared evenly; under “assembled pack” it is solved"),
            )
        )
        turning = Turning(THREE_COLUMNS_PX)
        middle = turning.columns
        pictured = QVBoxLayout()
        pictured.setSpacing(THEME.px(2))
        pictured.addWidget(self.view)
        pictured.addWidget(self.picture, 1)
        middle.addLayout(pictured, 3)
        strip = QVBoxLayout()
        strip.setSpacing(THEME.px(4))
        for fields in self.strip_fields.values():
            for field in fields.values():
                strip.addWidget(field)
        strip.addWidget(self.fields["gap_mm"])
        strip.addWidget(self.fields["welder_limit_mm"])
        strip.addStretch(1)
        middle.addLayout(strip, 2)
        middle.addLayout(self._rules(), 3)
        outer.addWidget(turning)
        outer.addWidget(flowing(*self.labels))
        title = QHBoxLayout()
        title.addWidget(heading("Candidates"))
        title.addStretch(1)
        title.addWidget(self.follow)
        title.addWidget(self.refused)
        outer.addLayout(title)
        outer.addWidget(self.proposal)
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 4)

    def _rules(self) -> QVBoxLayout:
        rules = QVBoxLayout()
        rules.setSpacing(THEME.px(4))
        rules.addWidget(soft("What a strip carries, by"))
        rules.addWidget(self.school)
        rules.addWidget(self.fields["rise_limit_k"])
        rules.addWidget(self.weld)
        row = QHBoxLayout()
        row.setSpacing(0)
        row.addWidget(self.fields["rule_a_per_mm2"])
        for button in self.rule_presets:
            row.addWidget(button)
        row.addStretch(1)
        rules.addLayout(row)
        rules.addWidget(self.fields["loss_mv"])
        self.take_off_label = soft("Main lead leaves the end groups from")
        rules.addWidget(self.take_off_label)
        rules.addWidget(self.take_off)
        rules.addStretch(1)
        return rules

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the joints of an evaluation."""
        role = self.role.value
        result = evaluation.laid_out.series if role == "series" else evaluation.laid_out.group
        joints = evaluation.project.joints
        self.take_off.show_value(joints.take_off)
        for button, (value, _) in zip(self.rule_presets, RULES, strict=True):
            button.setEnabled(joints.rule_a_per_mm2 != value)
        for own, fields in self.strip_fields.items():
            for field in fields.values():
                field.setVisible(own == role)
        self.drawing.show_result(result, joints.gap_mm, joints.take_off, joints.school)
        if self.rise_plot is not None:
            self.rise_plot.show_result(result, joints.rise_limit_k)
        keys = ("limit_a", "resistance_ohm", "drop_mv", "loss_w", "total_loss_w", "rise_k")
        for label, key in zip(self.labels, keys, strict=True):
            label.key = f"joints.{role}.{key}"
            label.show_figure()
        self.proposal.tell(
            phrase("● Recommended: {}, {}.", result.proposal.name, result.reason)
            if result.setting.joints
            else "One cell in series: there are no series connections.",
            (f"joints.{role}.limit_a", evaluation.sized.pack.current.key),
        )
        self.follow.setEnabled(not result.automatic)
        self._fill(result, joints.school)

    def _fill(self, result: JointResult, school: str) -> None:
        setting = result.setting
        rows = []
        listed = [item for item in result.found if not item.barred or self.refused.isChecked()]

        def order(item: Candidate) -> tuple[bool, bool, int, float]:
            carries = item.carries(setting, school)
            limit = item.limits_a[school]
            return (
                bool(item.barred),
                not carries,
                item.layers * carries,
                limit if carries else -limit,
            )

        listed.sort(key=order)
        chosen = result.chosen
        known = False
        for item in listed:
            own = _same(item, chosen)
            known = known or own
            rows.append(
                _row(chosen if own else item, setting, school, own, _same(item, result.proposal))
            )
        if not known:
            rows.insert(0, _row(chosen, setting, school, True, False))
        self.table.show_rows(rows)
        state = (setting.role, school, chosen.part.id, chosen.layers)
        if state != self._state:
            self._state = state
            self.table.show_chosen()

    def _show_view(self, view: str) -> None:
        """Turn to the drawing or to the curve; the plotting library is loaded when first asked."""
        self.view.show_value(view)
        if view == "rise" and self.rise_plot is None:
            from lumvak.ui.stages.joints.rise_plot import RisePlot

            self.rise_plot = RisePlot()
            self.picture.addWidget(self.rise_plot)
            self.show_evaluation(self.session.evaluation)
        shown = self.rise_plot if view == "rise" else self.drawing
        if shown is not None:
            self.picture.setCurrentWidget(shown)

    def _set_take_off(self, value: str) -> None:
        """A place in words takes the place of leads that were dragged."""
        changes = {"joints.take_off": value, "joints.lead_points": ()}
        try_edit(self.session, changes, "main-lead position")

    def _show_role(self, role: str) -> None:
        self.role.show_value(role)
        self.table.setObjectName(f"joints.{role}.part")
        self.show_evaluation(self.session.evaluation)

    def show_path(self, path: str) -> None:
        for role in ("series", "group"):
            if path.startswith(f"joints.{role}."):
                self._show_role(role)

    def _pick(self, value: Any) -> None:
        part, layers, barred = value
        self._set(part=part, width_mm=None, layers=layers)
        if barred:
            name = self.session.evaluation.sized.parts.conductors[part].said
            self.session.tell("warn", f"{spoken(name)} {barred}.")

    def _set(self, **values: Any) -> None:
        role = self.role.value
        try_edit(
            self.session,
            {f"joints.{role}.{name}": value for name, value in values.items()},
        )


def _same(one: Candidate, other: Candidate) -> bool:
    return one.part.id == other.part.id and one.layers == other.layers


def _row(item: Candidate, setting: Setting, school: str, chosen: bool, proposed: bool) -> Row:
    current_a = setting.current_a

    def limit(name: str) -> str:
        value = item.limits_a[name]
        return in_words("no limit") if math.isinf(value) else say(value, "A")

    marks = {
        SCHOOL_COLUMN[name]: "crimson"
        if item.limits_a[name] < current_a
        else ("copper" if chosen else "ink")
        if name == school
        else "soft"
        for name in SCHOOL_COLUMN
    }
    texts = (
        " · ".join(spoken(text) for text in (item.part.said, item.barred) if text),
        str(item.layers),
        str(item.strips),
        round_figures(item.ohm * 1e3),
        round_figures(item.drop_v * 1e3),
        round_figures(item.cell_w(setting.role, setting.parallel)),
        round_figures(item.density_a_per_mm2),
        round_figures(item.rise_k) if math.isfinite(item.rise_k) else "runs away",
        limit("temperature"),
        limit("rule"),
        limit("loss"),
    )
    return Row(
        texts,
        value=(item.part.id, item.layers, item.barred),
        chosen=chosen,
        proposed=proposed,
        faded=bool(item.barred),
        marks=marks if not item.barred else {},
    )
