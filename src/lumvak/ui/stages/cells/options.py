"""The options that serve, ranked, with the rules, limits and questions that belong to them."""

from __future__ import annotations

from typing import Any

from msgspec.structs import asdict
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.comparison.all_packs import PackField
from lumvak.core.document.pack import MOST_BESIDE
from lumvak.core.evaluation import Evaluation
from lumvak.core.sizing.options import Options, Refusal, family_name
from lumvak.core.sizing.ranking import MEASURES
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, round_figures, say, say_hours, spoken, worded
from lumvak.ui.stages.cells.folding import FoldedRow, folded
from lumvak.ui.stages.cells.why_not import AskRow
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import FieldChoice, small_field, try_edit
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading

RANKINGS = (
    ("balance", "balance"),
    ("lightest", "lightest"),
    ("cheapest", "cheapest"),
    ("coolest", "coolest"),
    ("smallest", "smallest"),
)
ORIGINS = (("new", "new"), ("any", "new or reclaimed"), ("reclaimed", "reclaimed"))
COLUMNS = (
    Column("cell", left=True, stretch=True, tip="The cell the pack is made of"),
    Column(
        "pack",
        left=True,
        sample="20S20P = +88",
        tip="+8: so many more packs of this cell; click there, or Right and Left, to unfold them",
    ),
    Column("set by", left=True, tip="The need that asks for the most cells in parallel"),
    Column("V full", tip="Volts of the full pack"),
    Column("nominal", tip="Nominal volts"),
    Column("usable", tip="Share of the charge there is before equipment or BMS stops"),
    Column("Ah", tip="Typical capacity of the pack"),
    Column("Wh", tip="Energy of the pack, typical capacity at nominal volts"),
    Column("cells", tip="How many cells the pack has"),
    Column("kg", tip="Cells only"),
    Column("cost", tip="Cells only"),
    Column("A/cell", tip="Continuous current through each cell"),
    Column("margin", tip="Current margin of the cells over the continuous current"),
    Column("runs", tip="Run time under the load"),
)
COLUMN_FIGURES = (
    "pack.parallel", "pack.parallel", "pack.parallel", "pack.voltage_full_v",
    "pack.voltage_nominal_v", "pack.usable_fraction", "pack.capacity_ah", "pack.energy_wh",
    "pack.cell_count", "pack.mass_kg", "pack.cost", "pack.current_per_cell_a", "pack.headroom",
    "pack.runtime_h",
)  # fmt: skip
THIN = 0.10
ALIKE_WORDS = (
    "; those marked = are as good as the first: a need 3 % away may turn them round, and what was "
    "proposed stays"
)
ROWS = ((0, "rules"), (1, "limits"), (2, "weights"), (3, "why not?"))
ASK = 3
WEIGHT_WORDS = {
    "cost": "cost",
    "mass": "mass",
    "volume": "volume",
    "work": "work",
    "warmth": "warmth",
    "surplus": "surplus",
    "rated": "off volts",
    "given_up": "given up",
    "held": "not held",
}
MOST_BRUSHED = 300
SHORT_NEEDS = {
    "capacity": "run time",
    "continuous": "current",
    "peak": "peak",
    "charge": "charge",
    "sag": "peak sag",
    "temperature": "warmth",
}
# What stops an option as a whole, where the code does not say it shortly.
STOP_WORDS = {
    "no-charge-fuse": "charge fuse",
    "group-joint-limit": "group strips",
    "series-joint-limit": "series connections",
    "leads-limit": "leads",
    "charge-leads-limit": "charge leads",
}
NO_YES = ((False, "all"), (True, "on hand only"))


class OptionsTable(QWidget):
    """A head with the ranking, one row of rules, limits or a question, and the table."""

    unbrushed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._state: tuple[Any, ...] = ()
        self._brush: tuple[PackField, Any] | None = None
        # Cells of which all packs are shown.
        self._unfolded: set[str] = set()
        self.table = RowsTable(COLUMNS, "Options that serve")
        self.table.setObjectName("pack.cell")
        self.ranking = FieldChoice(session, "pack.ranking", RANKINGS, "Ranked by")
        self.count = heading("")
        self.refused = QPushButton("refused")
        self.refused.setCheckable(True)
        self.all = QPushButton("show all")
        self.all.setToolTip(in_words("Drop the rectangle drawn on the chart"))
        self.all.hide()
        self.why = QPushButton("why?")
        self.why.setToolTip(in_words("What counts against the chosen pack, and how much"))
        self.why.clicked.connect(lambda: session.explain("pack.score"))
        self.auto = QPushButton("use the top-ranked pack")
        self.auto.setToolTip(in_words("The pack is whatever ranks first, now and later"))
        self.keep = QPushButton("keep")
        self.keep.setToolTip(worded("Set the chosen pack beside others, up to {}", MOST_BESIDE))
        self._make_rows()
        self._lay_out()
        self.show_row(0)
        self.table.fold_column = 1
        self.table.turned.connect(self._turn)
        self.table.picked.connect(self.pick)
        self.table.cell_clicked.connect(lambda _, place: session.explain(COLUMN_FIGURES[place]))
        self.refused.toggled.connect(lambda _: self._fill(self.session.evaluation, force=True))
        self.all.clicked.connect(self._drop_brush)
        self.keep.clicked.connect(self._keep)
        self.auto.clicked.connect(
            lambda: try_edit(
                session,
                {"pack.cell": None, "pack.series": None, "pack.parallel": None},
            )
        )

    def _make_rows(self) -> None:
        session = self.session
        shares = (
            ("least_usable", "usable"),
            ("peak_charge", "peak held to"),
            ("derating", "derating"),
        )
        self.fields = {
            "series": small_field(session, "pack.series", "series", width=20),
            "parallel": small_field(session, "pack.parallel", "parallel", width=20),
            **{
                name: small_field(session, f"pack.{name}", label, width=24)
                for name, label in shares
            },
        }
        self.end_charge = small_field(session, "pack.end_charge", "minimum SoC")
        self.limits = {
            "most_mass_kg": small_field(session, "pack.most_mass_kg", "mass at most"),
            "most_cost": small_field(session, "pack.most_cost", "cost at most"),
        }
        self.origin = FieldChoice(session, "pack.origin", ORIGINS, "Cells")
        self.drawer_only = FieldChoice(session, "pack.drawer_only", NO_YES, "From the drawer")
        self.ask = AskRow(session)
        self.weights = {
            name: small_field(session, f"pack.weights.{name}", WEIGHT_WORDS[name])
            for name in WEIGHT_WORDS
        }
        for name, field in self.weights.items():
            field.setToolTip(
                worded("How much it counts against a pack: {}", spoken(MEASURES[name].rule))
            )
        self.rows = (
            flowing(*self.fields.values(), gap=5),
            flowing(*self.limits.values(), self.end_charge, self.origin, self.drawer_only),
            flowing(*self.weights.values(), gap=6),
            self.ask,
        )
        self.which = ChoiceRow(ROWS, "Rules, limits and weights")
        self.which.picked.connect(self.show_row)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(6), THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(4))
        outer.addWidget(
            flowing(
                self.count,
                self.ranking,
                self.why,
                self.auto,
                self.all,
                self.refused,
                self.keep,
                gap=12,
            )
        )
        row = QHBoxLayout()
        row.setSpacing(THEME.px(12))
        row.addWidget(self.which, 0, Qt.AlignmentFlag.AlignTop)
        for place in self.rows:
            row.addWidget(place, 1)
        outer.addLayout(row)
        outer.addWidget(self.ask.answer)
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 4)

    def show_row(self, place: int) -> None:
        """Show the rules (0), the limits (1), the weights (2) or the question (3)."""
        self.which.show_value(place)
        for at, row in enumerate(self.rows):
            row.setVisible(at == place)
        self.ask.answer.setVisible(place == ASK and bool(self.ask.answer_text.text()))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show rules, limits and options of an evaluation."""
        pack = evaluation.project.pack
        limits = (pack.most_mass_kg, pack.most_cost) != (None, None)
        active = limits or pack.origin != "new" or pack.drawer_only
        said = any(getattr(pack.weights, name) is not None for name in MEASURES)
        marked = {1: active, 2: said}
        self.which.offer([(key, word + " •" * marked.get(key, False)) for key, word in ROWS])
        self.why.setVisible("pack.score" in evaluation.figures)
        self.auto.setEnabled((pack.cell, pack.series, pack.parallel) != (None, None, None))
        self.ask.show_evaluation(evaluation)
        self._fill(evaluation)

    # What the chart selects.

    def brush(self, field: PackField, places: Any) -> None:
        """Show only these packs of the field; called anew with each evaluation."""
        fresh = self._brush is None
        self._brush = field, places
        self._fill(self.session.evaluation, force=fresh)

    def unbrush(self) -> None:
        """Show all options again."""
        if self._brush is not None:
            self._brush = None
            self._fill(self.session.evaluation, force=True)

    def _drop_brush(self) -> None:
        self.unbrush()
        self.unbrushed.emit()

    def _shown(self, evaluation: Evaluation) -> Options:
        if self._brush is None:
            return evaluation.sized.options
        field, places = self._brush
        return evaluation.sized.sized_pack.as_options(
            field.rows[places], field.series[places], field.parallel[places]
        )

    # The table.

    def _fill(self, evaluation: Evaluation, force: bool = False) -> None:
        """It is long, for every cell of a row is named."""
        options = self._shown(evaluation)
        brushed = self._brush is not None
        self.refused.setVisible(not brushed)
        self.auto.setVisible(not brushed)
        self.all.setVisible(brushed)
        self.refused.setText(
            in_words("hide refused")
            if self.refused.isChecked()
            else worded("{} refused", len(evaluation.sized.options.refused))
        )
        chosen = (
            evaluation.sized.choice.cell.id,
            evaluation.sized.choice.series,
            evaluation.sized.choice.parallel,
        )
        found = options.find(*chosen)
        if brushed:
            folds = [FoldedRow(place) for place in range(min(len(options), MOST_BRUSHED))]
        else:
            opened = {
                row
                for row in set(options.rows.tolist())
                if options.table.cells[row].id in self._unfolded
            }
            folds = folded(options.rows.tolist(), opened, found)
        count = len(folds)
        cells = len(set(options.rows.tolist()))
        told = (
            worded("{} in the rectangle", len(options))
            if brushed
            else worded("{} packs, {} cells", len(options), cells)
        )
        alike = 0 if brushed else int(options.alike.sum())
        if alike > 1:
            told = worded("{} packs, {} alike", len(options), alike)
        self.count.setText(told if len(options) else in_words("Nothing serves"))
        self.count.setToolTip(
            in_words("Packs that serve, and of how many cells they are")
            + (ALIKE_WORDS if alike > 1 else "")
        )
        head = (
            [] if brushed or evaluation.sized.choice.index is not None else [_own_row(evaluation)]
        )
        tail = evaluation.sized.options.refused if self.refused.isChecked() and not brushed else ()

        def make(place: int) -> Row:
            if place < len(head):
                return head[place]
            place -= len(head)
            if place < count:
                return option_row(options, folds[place], chosen)
            return _refused_row(evaluation, tail[place - count])

        places = [fold.place for fold in folds]
        at = 0 if head else places.index(found) if found in places else None
        rows = LazyRows(
            len(head) + count + len(tail), make, -1 if at is None or at >= max(count, 1) else at
        )
        self.table.show_rows(rows)
        state = (chosen, evaluation.project.pack.ranking, len(options))
        if state != self._state or force:
            self._state = state
            if not force:
                self.table.show_chosen()

    def pick(self, value: Any) -> None:
        """Take a pack in hand; one that was refused is asked about."""
        if isinstance(value, tuple):
            cell, series, parallel = value
            try_edit(
                self.session,
                {"pack.cell": cell, "pack.series": series, "pack.parallel": parallel},
            )
            return
        self.ask_about(value.cell or value.chemistry, value.series or None, None)

    def _turn(self, value: Any, unfold: bool | None) -> None:
        """Show all packs of the cell of a row, or its best alone."""
        cell = value[0]
        wanted = cell not in self._unfolded if unfold is None else unfold
        self._unfolded = self._unfolded | {cell} if wanted else self._unfolded - {cell}
        self._fill(self.session.evaluation, force=True)

    def ask_about(self, wanted: str, series: int | None, parallel: int | None) -> None:
        """Ask why a cell, chemistry or count is not offered."""
        self.show_row(ASK)
        self.ask.ask(wanted, series, parallel)
        self.show_row(ASK)

    def _keep(self) -> None:
        evaluation = self.session.evaluation
        kept = evaluation.project.pack.beside
        fresh = {
            "cell": evaluation.sized.choice.cell.id,
            "series": evaluation.sized.choice.series,
            "parallel": evaluation.sized.choice.parallel,
        }
        held = [asdict(item) for item in kept]
        if fresh in held:
            self.session.tell("note", in_words("This pack is kept beside already."))
        elif len(held) >= MOST_BESIDE:
            self.session.tell(
                "note", worded("{} packs are kept already; drop one first.", MOST_BESIDE)
            )
        else:
            try_edit(self.session, {"pack.beside": (*held, fresh)}, "keep beside")


def _own_row(evaluation: Evaluation) -> Row:
    """The pack in hand where it is none of the options: asked for all the same."""
    choice = evaluation.sized.choice
    one = evaluation.sized.sized_pack.one(choice.row, choice.series, choice.parallel)
    return option_row(
        one, FoldedRow(0), (choice.cell.id, choice.series, choice.parallel), refused=True
    )


def _refused_row(evaluation: Evaluation, item: Refusal) -> Row:
    return Row(
        (
            family_name(evaluation.sized.parts, item.chemistry) if item.chemistry else "",
            f"{item.series}S" if item.series else "",
            spoken(item.reason),
        ),
        value=item,
        faded=True,
        span=2,
    )


def stop_words(codes: tuple[str, ...]) -> str:
    """The first thing that stops an option, in as many words as a cell of a table holds."""
    return STOP_WORDS.get(codes[0], codes[0].replace("-", " "))


def option_row(
    options: Options, fold: FoldedRow, chosen: tuple[str, int, int], refused: bool = False
) -> Row:
    """An option as a row of the table, with how many more of its cell it stands for."""
    place = fold.place
    cell = options.cell(place)
    series, parallel = int(options.series[place]), int(options.parallel[place])
    headroom = float(options.headroom[place])
    value = (cell.id, series, parallel)
    stopped = options.stopped.get(place)
    bad = refused or stopped is not None
    return Row(
        (
            cell.name,
            f"{series}S{parallel}P"
            + (" =" if options.alike[place] and options.alike.sum() > 1 else "")
            + (f" +{fold.more}" if fold.more and not fold.open else " \u2212" if fold.more else ""),
            "refused"
            if refused
            else stop_words(stopped)
            if stopped
            else SHORT_NEEDS[options.binding[place]],
            round_figures(series * cell.voltage_full_v),
            round_figures(series * cell.voltage_nominal_v),
            say(float(options.usable[place]), "%"),
            round_figures(float(options.capacity_ah[place])),
            round_figures(float(options.energy_wh[place])),
            str(series * parallel),
            round_figures(float(options.mass_kg[place])),
            f"{float(options.cost[place]):.0f}",
            round_figures(float(options.current_a[place]) / parallel),
            say(headroom, "%"),
            say_hours(float(options.runtime_h[place])),
        ),
        value=value,
        chosen=value == chosen,
        folds=fold.more > 0,
        marks={2: "crimson"} if bad else {12: "amber"} if headroom < THIN else {},
    )
