"""The parts between the joints and the equipment: every place above, its options below."""

from __future__ import annotations

from functools import partial
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.document.power import picking
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import phrase
from lumvak.core.units import QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import parse, say, spell, worded
from lumvak.ui.stages.power.part_rows import HEADS, PATHS, lines_of, option_rows
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import (
    FieldChoice,
    QuantityField,
    edit_or_why,
    small_field,
    try_edit,
)
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.sentence import Sentence
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading

COLUMNS = (
    Column("place", left=True, tip="Where in the path"),
    Column("part", left=True, stretch=True, tip="The part in force; click for the others"),
    Column("carries", tip="Continuous"),
)
# Narrower, what would do goes below the places.
TWO_COLUMNS_PX = 660
SCHOOLS = (("temperature", "temperature"), ("rule", "density"), ("loss", "loss"))
BUNDLED = ((False, "free"), (True, "bundled"))
FUSE_PLACES = (("cells", "at the cells"), ("board", "behind the BMS"), ("output", "far end"))
# Fields that belong to a place of the path, by the beginning of theirs.
OWNERS = {
    "power.fuse_": "fuse", "power.capacitance": "precharge", "charge_leads.": "charge-leads",
    "leads.": "leads", "balance_leads.": "balance-leads",
}  # fmt: skip
INSULATIONS = (
    (None, "not said"),
    ("silicone", "silicone"),
    ("pvc", "PVC"),
    ("xlpe", "cross-linked"),
    ("ptfe", "PTFE"),
)


class _LeadFields(QWidget):
    """What is typed for a pair of leads."""

    def __init__(self, session: Session, path: str) -> None:
        super().__init__()
        self.path = path
        make = partial(small_field, session)
        self.fields = {
            "area_mm2": make(f"{path}.area_mm2", "section", width=70),
            "outer_mm": make(f"{path}.outer_mm", "over all"),
            "length_m": make(f"{path}.length_m", "one is"),
            "rise_limit_k": make(f"{path}.rise_limit_k", "rise"),
            "rule_a_per_mm2": make(f"{path}.rule_a_per_mm2", "density", width=60),
            "loss_mv": make(f"{path}.loss_mv", "drop"),
        }
        self.choices = {
            "school": FieldChoice(session, f"{path}.school", SCHOOLS, "What a lead carries"),
            "bundled": FieldChoice(session, f"{path}.bundled", BUNDLED, "How it lies"),
            "insulation": FieldChoice(session, f"{path}.insulation", INSULATIONS, "Insulation"),
        }
        self.labels = [
            FigureLabel(session, f"{path}.limit_{school}_a", worded("by {}", word))
            for school, word in SCHOOLS
        ]
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(THEME.px(4))
        layout.addWidget(flowing(*self.fields.values(), gap=14))
        layout.addWidget(flowing(*self.choices.values(), *self.labels, gap=14))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is in force."""
        leads = getattr(evaluation.project, self.path)
        for label in self.labels:
            label.strong = label.key == f"{self.path}.limit_{leads.school}_a"
            label.show_figure()


class PowerPartsView(Page):
    """Places above; of the one picked, what is set and what there is to choose from below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.about = "click a place to see what else would do"
        self.place = "fuse"
        self.places = RowsTable(COLUMNS, "Places of the power path")
        self.options = RowsTable(_columns("fuse"), "What would do there")
        self.head = heading("")
        self.follow = QPushButton("take the recommended")
        self.follow.clicked.connect(self._follow)
        self.says = Sentence(session)
        self._make_extras()
        self.places.setMinimumWidth(THEME.px(252))
        side = QVBoxLayout()
        side.setSpacing(THEME.px(5))
        line = QHBoxLayout()
        line.addWidget(self.head)
        line.addStretch(1)
        line.addWidget(self.follow)
        side.addLayout(line)
        side.addWidget(self.says)
        for widget in self._extras.values():
            side.addWidget(widget)
        side.addWidget(self.options, 1)
        keep_rows(self.places, 6)
        keep_rows(self.options, 8)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        turning = Turning(TWO_COLUMNS_PX, 18)
        turning.columns.addWidget(self.places, 1)
        turning.columns.addLayout(side, 2)
        outer.addWidget(turning)
        self.places.picked.connect(self.show_place)
        self.options.picked.connect(self._pick)

    def _make_extras(self) -> None:
        """It is long, for it names the fields of every part."""
        session = self.session
        self.fuse_place = FieldChoice(session, "power.fuse_place", FUSE_PLACES, "Fuse sits")
        self.fuse_labels = [
            FigureLabel(session, "power.fuse_needed_a", "needs at least"),
            FigureLabel(session, "power.fuse_standard_a", "next rating"),
            FigureLabel(session, "power.short_a", "short-circuit current"),
            FigureLabel(session, "power.fuse_hold_a", "carries continuously"),
        ]
        self.band = Grid(
            "Melting band",
            (
                GridColumn("times its rating", "ratio", _ratio, _spell_ratio),
                GridColumn("opens no sooner than", "least_s", _seconds, _spell_seconds),
                GridColumn(
                    "opens by", "most_s", _seconds, _spell_seconds, hint=lambda _: "it need not"
                ),
            ),
            self._take_band,
            lambda: {"ratio": 20.0, "least_s": 0.001, "most_s": 0.02},
            (2, 6),
        )
        self.own_band = QPushButton("type its melting band")
        self.own_band.setCheckable(True)
        self.own_band.toggled.connect(self._toggle_band)
        fuse = _column_of(
            flowing(self.fuse_place, *self.fuse_labels, self.own_band, gap=14),
            self.band,
        )
        self.capacitance = QuantityField(session, "power.capacitance_uf", "Capacitors")
        self.precharge_labels = [
            FigureLabel(session, "power.precharge_peak_a", "most"),
            FigureLabel(session, "power.precharge_j", "energy"),
            FigureLabel(session, "power.precharge_s", "full in"),
            FigureLabel(session, "power.precharge_w", "mean"),
        ]
        self.surge_labels = [
            FigureLabel(session, "power.surge_cold_ohm", "cold"),
            FigureLabel(session, "power.surge_loss_w", "loses hot"),
            FigureLabel(session, "power.surge_hot_c", "gets"),
            FigureLabel(session, "power.surge_recovery_s", "cold again after"),
        ]
        self.balance = {
            "area_mm2": small_field(session, "balance_leads.area_mm2", "section", width=70),
            "fuse_a": small_field(session, "balance_leads.fuse_a", "fuse in each"),
        }
        self.balance_labels = [
            FigureLabel(session, "balance_leads.fault_a", "two that touch carry"),
            FigureLabel(session, "balance_leads.melts_s", "and melt after"),
        ]
        self.leads = {key: _LeadFields(session, key) for key in ("leads", "charge_leads")}
        self._extras: dict[str, QWidget] = {
            "fuse": fuse,
            "leads": self.leads["leads"],
            "charge-leads": self.leads["charge_leads"],
            "precharge": flowing(self.capacitance, *self.precharge_labels, gap=14),
            "surge": flowing(*self.surge_labels, gap=14),
            "balance-leads": flowing(*self.balance.values(), *self.balance_labels, gap=14),
        }

    def show_path(self, path: str) -> None:
        owners = {path: key for key, path in PATHS.items()} | OWNERS
        if place := next((key for known, key in owners.items() if path.startswith(known)), ""):
            self.show_place(place)

    def show_place(self, place: str) -> None:
        """Turn to one of the places."""
        self.place = place if place in PATHS else "leads"
        self.options.setObjectName(PATHS[self.place])
        self.options.set_columns(_columns(self.place))
        self.show_evaluation(self.session.evaluation)
        self.options.show_chosen()

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the places of an evaluation, and the options of the one picked."""
        lines = lines_of(evaluation)
        self.places.show_rows(
            [
                Row(
                    (line.name, line.part, line.carries),
                    value=line.key,
                    chosen=line.key == self.place,
                    key=line.key,
                    marks={1: "crimson"} if line.bad else {},
                )
                for line in lines
            ]
        )
        line = next(line for line in lines if line.key == self.place)
        self.head.setText(line.name.capitalize())
        self.says.tell(phrase("{}: {}", line.part, line.says) if line.says else "", line.about)
        for place, widget in self._extras.items():
            widget.setVisible(place == self.place)
        self._show_extra(evaluation)
        path = PATHS[self.place]
        self.follow.setVisible(
            self.place in ("fuse", "connector", "charge-fuse", "leads", "charge-leads")
        )
        self.follow.setEnabled(bool(path) and _value(evaluation, path) is not None)
        self.options.setVisible(self.place != "balance-leads")
        self.options.show_rows(option_rows(evaluation, self.place))

    def _show_extra(self, evaluation: Evaluation) -> None:
        if self.place == "fuse":
            typed = bool(evaluation.project.power.fuse_band)
            fuse = evaluation.power.fuse.part
            self.own_band.setChecked(typed)
            self.own_band.setEnabled(fuse is not None)
            self.band.setVisible(typed)
            if fuse is not None:
                self.band.show_records([asdict(point) for point in fuse.band])
        labels = {
            "fuse": self.fuse_labels,
            "precharge": self.precharge_labels,
            "surge": self.surge_labels,
            "balance-leads": self.balance_labels,
        }.get(self.place, [])
        for label in labels:
            label.setVisible(label.key in evaluation.figures)
            label.show_figure()
        if self.place in ("leads", "charge-leads"):
            self.leads[self.place.replace("-", "_")].show_evaluation(evaluation)

    def _pick(self, part: str) -> None:
        try_edit(self.session, picking(PATHS[self.place], part))

    def _follow(self) -> None:
        try_edit(self.session, picking(PATHS[self.place], None))

    def _toggle_band(self, typed: bool) -> None:
        """Begin with the band of the fuse in force, or go back to it."""
        evaluation = self.session.evaluation
        if typed == bool(evaluation.project.power.fuse_band) or evaluation.power.fuse.part is None:
            return
        band = tuple(asdict(point) for point in evaluation.power.fuse.part.band) if typed else ()
        try_edit(
            self.session,
            {"power.fuse": evaluation.power.fuse.part.id, "power.fuse_band": band},
            "melting band",
        )

    def _take_band(self, records: list[Record]) -> str:
        return edit_or_why(self.session, {"power.fuse_band": tuple(records)}, "melting band")


def _column_of(*widgets: QWidget) -> QWidget:
    column = QWidget()
    layout = QVBoxLayout(column)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(THEME.px(4))
    for widget in widgets:
        layout.addWidget(widget)
    return column


def _columns(place: str) -> tuple[Column, ...]:
    return (
        Column("part", left=True, tip="A part that would do; below, why others would not"),
        *(Column(head, tip=tip) for head, tip in HEADS[place]),
        Column("cost", tip="Cost of one, or of both leads"),
        Column("", left=True, stretch=True),
    )


def _value(evaluation: Evaluation, path: str) -> Any:
    document, name = path.split(".")
    return getattr(getattr(evaluation.project, document), name)


def _ratio(text: str, _: Record) -> float:
    return parse(text, units.RATIO)


def _seconds(text: str, record: Record) -> float | None:
    if not text or text == "it need not":
        if record.get("least_s") is None:
            raise QuantityError("a time is wanted")
        return None
    return parse(text, units.SECONDS)


def _spell_ratio(value: Any, _: Record) -> str:
    return "" if value is None else say(value, "")


def _spell_seconds(value: Any, _: Record) -> str:
    return "" if value is None else spell(value, units.SECONDS)
