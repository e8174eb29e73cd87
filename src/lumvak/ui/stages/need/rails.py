"""A portable supply: its rails, and the appliances that they feed."""

from __future__ import annotations

from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.need.rails import RAIL_EFFICIENCY, RAIL_WORDS
from lumvak.core.units import CURRENT, FRACTION, HOURS, POWER, VOLTAGE, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, parse, say, spell, worded
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import Turning
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column
from lumvak.ui.widgets.quantity_field import edit_or_why
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading

SIDE_BY_SIDE_PX = 700


def _name(text: str, _: Record) -> str:
    if not text:
        raise QuantityError("a name is wanted, such as 12 V or lamp")
    return text


def _text(value: Any, _: Record) -> str:
    return str(value)


def _read_kind(text: str, _: Record) -> str:
    for kind, words in RAIL_WORDS.items():
        if text.lower() in (words, kind):
            return kind
    raise QuantityError(
        worded("“{}” makes no rail; accepted: {}", text, ", ".join(RAIL_WORDS.values()))
    )


def _read_limit(text: str, record: Record) -> Any:
    """Watts, or amps at the volts of the rail."""
    if not text:
        return None
    try:
        return parse(text, POWER)
    except QuantityError:
        return parse(text, CURRENT) * record["volts"]


def _read_draw(text: str, _: Record) -> Record:
    """Watts or amps; the unit goes with the amount."""
    try:
        return {"amount": parse(text, POWER), "unit": "W"}
    except QuantityError as error:
        try:
            return {"amount": parse(text, CURRENT), "unit": "A"}
        except QuantityError:
            raise QuantityError(worded("{}, or amps such as 2 A", error)) from error


class RailsPanel(QWidget):
    """Two tables side by side: rails, and what each feeds; the sums below."""

    def __init__(self, session: Session) -> None:
        """It is long, for it names every column of both tables."""
        super().__init__()
        self.session = session
        self.rails = Grid(
            "Rails",
            (
                GridColumn("rail", "name", _name, _text, wide=True),
                quantity_column("volts", "volts", VOLTAGE),
                GridColumn(
                    "made by",
                    "kind",
                    _read_kind,
                    lambda value, _: RAIL_WORDS[value],
                    tuple(RAIL_WORDS.values()),
                ),
                GridColumn(
                    "yields",
                    "efficiency",
                    lambda text, _: None if not text else parse(text, FRACTION),
                    lambda value, _: "" if value is None else spell(value, FRACTION),
                    hint=lambda record: (
                        spell(RAIL_EFFICIENCY[record["kind"]], FRACTION)
                        + (" ◇" if record["kind"] != "direct" else "")
                    ),
                ),
                GridColumn(
                    "up to",
                    "limit_w",
                    _read_limit,
                    lambda value, _: "" if value is None else spell(value, POWER),
                ),
                quantity_column("idle", "idle_w", POWER),
                quantity_column("fuse", "fuse_a", CURRENT, optional=True),
            ),
            self._take_rails,
            self._new_rail,
            (2, 5),
        )
        self.rails.setObjectName("need.rails")
        self.appliances = Grid(
            "Appliances",
            (
                GridColumn("appliance", "name", _name, _text, wide=True),
                GridColumn("rail", "rail", _name, _text, lambda _: self._rail_names()),
                GridColumn(
                    "draws",
                    "amount",
                    _read_draw,
                    lambda value, record: f"{digits(value, '.10g')} {record['unit']}",
                ),
                quantity_column("hours", "hours", HOURS),
            ),
            self._take_appliances,
            self._new_appliance,
            (2, 5),
        )
        self.appliances.setObjectName("need.appliances")
        self.sums = [
            FigureLabel(session, "demand.power_w", "all on:", strong=True),
            FigureLabel(session, "demand.end_current_a", "most current"),
            FigureLabel(session, "demand.energy_wh", "energy a charge"),
        ]
        sides = Turning(SIDE_BY_SIDE_PX, 22)
        for title, grid in (("Rails", self.rails), ("What they feed", self.appliances)):
            side = QVBoxLayout()
            side.setSpacing(THEME.px(4))
            side.addWidget(heading(title))
            side.addWidget(grid)
            sides.columns.addLayout(side, 4 if grid is self.rails else 3)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(sides)
        row = QHBoxLayout()
        row.setSpacing(THEME.px(18))
        for label in self.sums:
            row.addWidget(label)
        row.addStretch(1)
        outer.addLayout(row)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show rails, appliances and their sums."""
        if self.isHidden():
            return
        need = evaluation.project.need
        over = {load.rail.name for load in evaluation.sized.demand.rails if load.overloaded}
        self.rails.show_records([asdict(rail) for rail in need.rails])
        self.appliances.show_records([asdict(item) for item in need.appliances])
        for label in self.sums:
            label.show_figure()
            label.setVisible(label.key in evaluation.figures)
        self.rails.table.setAccessibleDescription(
            worded("over their limit: {}", ", ".join(sorted(over)))
            if over
            else in_words("all within their limits")
        )

    def _rail_names(self) -> list[str]:
        return [rail.name for rail in self.session.project.need.rails]

    def _new_rail(self) -> Record:
        taken = self._rail_names()
        volts = next(
            value for value in (9.0, 12.0, 5.0, *range(1, 99)) if say(value, "V") not in taken
        )
        return {"name": say(volts, "V"), "volts": float(volts), "kind": "converter", "idle_w": 0.0}

    def _new_appliance(self) -> Record:
        rail = self._rail_names()[0]
        return {"name": "appliance", "rail": rail, "amount": 5.0, "unit": "W", "hours": 1.0}

    def _edit(self, changes: dict[str, Any], text: str) -> str:
        return edit_or_why(self.session, changes, text)

    def _take_rails(self, records: list[Record]) -> str:
        """A rail that is renamed keeps what it feeds."""
        need = self.session.project.need
        changes: dict[str, Any] = {"need.rails": tuple(records)}
        if len(records) == len(need.rails):
            renamed = {
                rail.name: record["name"]
                for rail, record in zip(need.rails, records, strict=True)
                if rail.name != record["name"]
            }
            if renamed:
                changes["need.appliances"] = tuple(
                    {**asdict(item), "rail": renamed.get(item.rail, item.rail)}
                    for item in need.appliances
                )
        return self._edit(changes, "rails")

    def _take_appliances(self, records: list[Record]) -> str:
        return self._edit({"need.appliances": tuple(records)}, "appliances")
