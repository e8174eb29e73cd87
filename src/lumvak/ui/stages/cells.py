"""Stage: cells and count. The ladder of counts, and every option, ranked."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QSplitter, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.evaluate import Evaluation
from lumvak.core.ladder import Rung
from lumvak.core.ranking import Options, family_name
from lumvak.core.units import round_figures, say, say_hours
from lumvak.ui.fields import QuantityField, bound_choice, heading, soft, try_edit
from lumvak.ui.ladderview import LadderView
from lumvak.ui.session import Session
from lumvak.ui.tables import Column, Row, RowsTable
from lumvak.ui.theme import THEME

RANKINGS = (
    ("balance", "balance"),
    ("lightest", "lightest"),
    ("cheapest", "cheapest"),
    ("coolest", "coolest"),
    ("smallest", "smallest"),
)
COLUMNS = (
    Column("cell", left=True, stretch=True),
    Column("pack", left=True),
    Column("set by", left=True, tip="The need that asks for the most cells in parallel"),
    Column("V full"),
    Column("nominal", tip="Nominal volts"),
    Column("empty", tip="Volts when empty"),
    Column("Ah"),
    Column("Wh"),
    Column("cells"),
    Column("kg", tip="Cells only"),
    Column("cost", tip="Cells only"),
    Column("A/cell"),
    Column("room", tip="Headroom of the cells over the continuous current"),
    Column("runs"),
)
COLUMN_FIGURES = (
    "pack.parallel", "pack.parallel", "pack.parallel", "pack.voltage_full_v",
    "pack.voltage_nominal_v", "pack.voltage_empty_v", "pack.capacity_ah", "pack.energy_wh",
    "pack.cell_count", "pack.mass_kg", "pack.cost", "pack.current_per_cell_a", "pack.headroom",
    "pack.runtime_h",
)  # fmt: skip
THIN = 0.10
SHORT_NEEDS = {
    "capacity": "run time",
    "continuous": "current",
    "peak": "peak",
    "charge": "charge",
    "sag": "sag",
    "temperature": "warmth",
}


class CellsStage(QWidget):
    """The ladder above, the table of options below; picking one updates everything."""

    key = "cells"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: Options | None = None
        self._state: tuple[Any, ...] = ()
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.ladder = LadderView()
        self.table = RowsTable(COLUMNS, "Options that serve")
        self.ranking = bound_choice(session, "pack.ranking", RANKINGS, "Ranked by")
        self.count = heading("")
        self.refused = QPushButton("show the refused")
        self.refused.setCheckable(True)
        self.auto = QPushButton("follow the ranking")
        self.auto.setToolTip("Let the pack in hand be whatever ranks first")
        self.series = QuantityField(
            session, "pack.series", "In series", units.COUNT, optional=True, width=44
        )
        self.parallel = QuantityField(
            session, "pack.parallel", "In parallel", units.COUNT, optional=True, width=44
        )
        self.end_charge = QuantityField(
            session, "pack.end_charge", "To charge", units.FRACTION, width=52
        )
        self.derating = QuantityField(
            session, "pack.derating", "Of rating", units.FRACTION, width=52
        )
        self.end_charge.setToolTip("The stop voltage is held down to this charge")
        self.derating.setToolTip("Share of the continuous rating that is counted on")
        self._lay_out()
        self.ladder.picked.connect(self._pick_rung)
        self.table.picked.connect(self._pick)
        self.table.cell_clicked.connect(lambda _, place: session.explain(COLUMN_FIGURES[place]))
        self.refused.toggled.connect(lambda _: self._fill(self.session.evaluation, force=True))
        self.auto.clicked.connect(
            lambda: try_edit(
                session,
                {"pack.cell": None, "pack.series": None, "pack.parallel": None},
                "follow the ranking",
            )
        )

    def _lay_out(self) -> None:
        above, below = QWidget(), QWidget()
        upper, lower = QVBoxLayout(above), QVBoxLayout(below)
        upper.setContentsMargins(THEME.px(24), THEME.px(14), THEME.px(12), THEME.px(4))
        lower.setContentsMargins(THEME.px(24), THEME.px(8), THEME.px(12), THEME.px(6))
        head = QHBoxLayout()
        head.addWidget(heading("How many in series?"))
        head.addStretch(1)
        head.addWidget(soft("from empty to full, dotted where the load cannot use it"))
        upper.addLayout(head)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.ladder)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        upper.addWidget(scroll, 1)
        title = QHBoxLayout()
        title.addWidget(self.count)
        title.addWidget(self.refused)
        title.addStretch(1)
        title.addWidget(self.ranking)
        lower.addLayout(title)
        rules = QHBoxLayout()
        rules.setSpacing(THEME.px(4))
        for field in (self.series, self.parallel, self.end_charge, self.derating):
            layout = field.layout()
            if layout is not None:
                layout.setColumnMinimumWidth(0, 0)  # type: ignore[attr-defined]
            field.note.hide()
            rules.addWidget(field)
        rules.addStretch(1)
        rules.addWidget(self.auto)
        lower.addLayout(rules)
        lower.addWidget(self.table, 1)
        split = QSplitter(Qt.Orientation.Vertical)
        split.setHandleWidth(1)
        split.setChildrenCollapsible(False)
        split.addWidget(above)
        split.addWidget(below)
        split.setSizes([THEME.px(250), THEME.px(310)])
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(split)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show ladder, rules and options of an evaluation."""
        pack = seen.project.pack
        self.ladder.show_evaluation(seen)
        self.ranking.show_value(pack.ranking)
        self.series.show_value(pack.series, seen.figures["pack.series"])
        self.parallel.show_value(pack.parallel, seen.figures["pack.parallel"])
        self.end_charge.show_value(pack.end_charge, None)
        self.derating.show_value(pack.derating, None)
        self.auto.setEnabled((pack.cell, pack.series, pack.parallel) != (None, None, None))
        self._fill(seen)

    def _fill(self, seen: Evaluation, force: bool = False) -> None:
        options = seen.options
        faded = len(options.refused) if self.refused.isChecked() else 0
        self.refused.setText(
            "hide the refused"
            if self.refused.isChecked()
            else f"show {len(options.refused)} refused"
        )
        self.count.setText(f"{len(options)} options serve" if len(options) else "Nothing serves")
        rows = []
        if seen.choice.index is None:
            rows.append(self._own_row(seen))
        rows.extend(
            option_row(options, place, place == seen.choice.index) for place in range(len(options))
        )
        if faded:
            rows.extend(
                Row(
                    (
                        family_name(seen.catalogue, item.chemistry),
                        f"{item.series}S" if item.series else "",
                        item.reason,
                    ),
                    value=item,
                    faded=True,
                    span=2,
                )
                for item in options.refused
            )
        self.table.show_rows(rows)
        state = (seen.choice.cell.id, seen.choice.series, seen.choice.parallel, pack_key(seen))
        if state != self._state or force:
            self._state = state
            if not force:
                self.table.show_chosen()

    def _own_row(self, seen: Evaluation) -> Row:
        """The pack in hand where it is none of the options: asked for all the same."""
        f, choice = seen.figures, seen.choice

        def number(key: str) -> str:
            return round_figures(f[key].number)

        return Row(
            (
                choice.cell.name,
                f"{choice.series}S{choice.parallel}P",
                "refused",
                number("pack.voltage_full_v"),
                number("pack.voltage_nominal_v"),
                number("pack.voltage_empty_v"),
                number("pack.capacity_ah"),
                number("pack.energy_wh"),
                say(f["pack.cell_count"].value, ""),
                number("pack.mass_kg"),
                f"{f['pack.cost'].number:.0f}",
                number("pack.current_per_cell_a"),
                say(f["pack.headroom"].value, "%"),
                say_hours(f["pack.runtime_h"].number),
            ),
            value=(choice.cell.id, choice.series, choice.parallel),
            chosen=True,
            marks={2: "crimson"},
        )

    def _pick(self, value: Any) -> None:
        if isinstance(value, tuple):
            cell, series, parallel = value
            try_edit(
                self.session,
                {"pack.cell": cell, "pack.series": series, "pack.parallel": parallel},
                f"{series}S{parallel}P of {cell}",
            )
            return
        self.session.tell("note", f"Refused: {value.reason}.")
        if value.cell is not None and value.series:
            try_edit(
                self.session,
                {"pack.cell": value.cell, "pack.series": value.series, "pack.parallel": None},
                f"{value.cell}, though refused",
            )

    def _pick_rung(self, rung: Rung) -> None:
        options = self.session.evaluation.options
        catalogue = self.session.evaluation.catalogue
        family = catalogue.chemistries[rung.chemistry].family
        for place in range(len(options)):
            cell = options.cell(place)
            if (
                catalogue.chemistry_of(cell).family == family
                and options.series[place] == rung.series
            ):
                self._pick(option_value(options, place))
                return
        self.session.tell("note", f"{rung.family} {rung.series}S: {rung.says}.")


def pack_key(seen: Evaluation) -> tuple[Any, ...]:
    """What decides where the table should be scrolled: the ranking and the number of options."""
    return seen.project.pack.ranking, len(seen.options)


def option_value(options: Options, place: int) -> tuple[str, int, int]:
    """Cell, series and parallel of an option."""
    return options.cell(place).id, int(options.series[place]), int(options.parallel[place])


def option_row(options: Options, place: int, chosen: bool) -> Row:
    """An option as a row of the table."""
    cell = options.cell(place)
    series, parallel = int(options.series[place]), int(options.parallel[place])
    headroom = float(options.headroom[place])
    return Row(
        (
            cell.name,
            f"{series}S{parallel}P",
            SHORT_NEEDS[options.binding[place]],
            round_figures(series * cell.voltage_full_v),
            round_figures(series * cell.voltage_nominal_v),
            round_figures(series * cell.voltage_empty_v),
            round_figures(float(options.capacity_ah[place])),
            round_figures(float(options.energy_wh[place])),
            str(series * parallel),
            round_figures(float(options.mass_kg[place])),
            f"{float(options.cost[place]):.0f}",
            round_figures(float(options.current_a[place]) / parallel),
            say(headroom, "%"),
            say_hours(float(options.runtime_h[place])),
        ),
        value=(cell.id, series, parallel),
        chosen=chosen,
        marks={12: "amber"} if headroom < THIN else {},
    )
