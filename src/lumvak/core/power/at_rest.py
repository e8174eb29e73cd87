"""A pack at rest: days until it cuts off, and from there until its cells are harmed."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.boards import Board, Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.recovery import HARM_UNDER_V, recovery_v
from lumvak.core.document.power import Rest
from lumvak.core.figures.figure import Figure, Rule, of_part, sheet, typed
from lumvak.core.said import say
from lumvak.core.spelling import DAYS_A_MONTH

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
UNDER_VOLTAGE_V = Rule("board.under_voltage_v", "Nothing cuts off; empty at, a cell", "V",
                       "the cell's empty voltage", "methods 24")
TOTAL_DAYS = Rule("rest.total_days", "In all", "d", "until it cuts off + until harm", "methods 24")
DRAIN_MA = Rule("rest.drain_ma", "Standby drain", "mA",
                "BMS + meter + converter + what the cells lose by themselves", "methods 24")
OFF_MA = Rule("rest.off_ma", "Drawn after the cut-off", "mA",
              "BMS once off + what the cells lose by themselves", "methods 24")
DAMAGE_V = Rule("rest.damage_v", "A cell is harmed under", "V",
                "{} under the empty voltage of its sheet", "methods 24")
CUT_DAYS = Rule("rest.cut_days", "Until it cuts off", "d",
                "(charge it is stored at − charge at the cut-off) × capacity ÷ drain", "methods 24")
HARM_DAYS = Rule("rest.harm_days", "From there until cells are harmed", "d",
                 "(charge at the cut-off − charge at harm) × capacity ÷ drain once off; under "
                 "the empty voltage 4 % of the charge for each volt", "methods 24")
# fmt: on

HOURS_A_DAY = 24.0
# Under its empty voltage a cell still holds about so much of its charge for each volt.
CHARGE_PER_V = 0.04
LEAST_DRAIN_A = 1e-9


class Drain(Struct, frozen=True):
    """What draws at rest, in mA: before the cut-off and after it."""

    name: str
    before_ma: float
    after_ma: float


class Shelf(Struct, frozen=True):
    """Days on the shelf as figures; infinite where nothing draws."""

    cut_days: Figure
    harm_days: Figure
    total_days: Figure
    figures: tuple[Figure, ...]
    drains: tuple[Drain, ...]
    # Charge left when it is put away, when it cuts off, and when its cells are harmed.
    charges: tuple[float, float, float]


def charge_at_rest(behaviour: Behaviour, cell_v: float) -> float:
    """State of charge at a resting voltage, 0 to 1; less than 0 under the end of the curve."""
    charge, volts = behaviour.rest_charge, behaviour.rest_v
    if cell_v < volts[0]:
        return -CHARGE_PER_V * float(volts[0] - cell_v)
    # Where a curve is flat the lower end counts: the cut comes late, and harm is nearer.
    return float(np.interp(cell_v, volts + np.arange(len(volts)) * 1e-9, charge))


def _drains(board: Board | None, on_a: float, off_a: float) -> tuple[Figure, Figure]:
    """What the BMS draws, and once it has cut off."""
    on, off = "BMS draws", "BMS draws once it has cut off"
    if board is None:
        return (
            sheet("board.quiescent_ma", on, 0.0, "mA", "no BMS"),
            sheet("board.off_ma", off, 0.0, "mA", "no BMS"),
        )
    drawn = "quiescent_a" if board.off_a is None else "off_a"
    return (
        of_part("board.quiescent_ma", on, board, "quiescent_a", "mA", on_a * 1e3),
        of_part("board.off_ma", off, board, drawn, "mA", off_a * 1e3),
    )


def shelf_of(
    rest: Rest,
    cell: Cell,
    family: Family,
    behaviour: Behaviour,
    parallel: int,
    capacity: Figure,
    board: Board | None,
) -> Shelf:
    """How long a pack may be left, from the drain of board, meter and converter (methods 24).

    It is long, for it lists figures one after the other, each made from those above it.
    """
    charge = typed("rest.charge", "Stored at", rest.charge, "%")
    meter = typed("rest.meter_ma", "Meter draws", rest.meter_ma, "mA")
    converter = typed("rest.converter_ma", "Converter draws", rest.converter_ma, "mA")
    loss = typed("rest.month_loss", "Cells lose by themselves a month", rest.month_loss, "%")
    own = rest.month_loss * capacity.number / (DAYS_A_MONTH * HOURS_A_DAY)
    board_a = 0.0 if board is None else board.quiescent_a
    off_a = 0.0 if board is None else board.quiescent_a if board.off_a is None else board.off_a
    drains, drains_off = _drains(board, board_a, off_a)
    cut_v = (
        of_part("board.under_voltage_v", "Cuts off at, a cell", board, "under_voltage_v", "V")
        if board is not None
        else UNDER_VOLTAGE_V.of(cell.voltage_empty_v, origin="constant")
    )
    harm_v = DAMAGE_V.said_or(
        rest.damage_v, recovery_v(cell, family), rule=say(HARM_UNDER_V[family], "V")
    )
    others = (rest.meter_ma + rest.converter_ma) * 1e-3
    on_a = board_a + others + own
    before = DRAIN_MA.of(on_a * 1e3, drains, meter, converter, loss, capacity)
    # A board that has cut off takes meter and converter off too.
    after_a = off_a + own + (0.0 if board is not None else others)
    after = OFF_MA.of(after_a * 1e3, drains_off, loss, capacity)
    at_cut = charge_at_rest(behaviour, cut_v.number)
    at_harm = min(charge_at_rest(behaviour, min(harm_v.number, cut_v.number)), at_cut)
    cut_days = _days(max(0.0, rest.charge - at_cut) * capacity.number, on_a)
    harm_days = _days((min(at_cut, rest.charge) - at_harm) * capacity.number, after_a)
    cut = CUT_DAYS.of(_shown(cut_days), charge, cut_v, capacity, before)
    harm = HARM_DAYS.of(_shown(harm_days), cut_v, harm_v, capacity, after)
    total = TOTAL_DAYS.of(_shown(cut_days + harm_days), cut, harm)
    left = 1.0 if board is None else 0.0
    takers = (
        Drain("no BMS" if board is None else board.name, board_a * 1e3, off_a * 1e3),
        Drain("meter", rest.meter_ma, left * rest.meter_ma),
        Drain("converter", rest.converter_ma, left * rest.converter_ma),
        Drain("cells by themselves", own * 1e3, own * 1e3),
    )
    return Shelf(
        cut,
        harm,
        total,
        (before, after, cut, harm, total),
        tuple(item for item in takers if item.before_ma or item.after_ma),
        (rest.charge, min(at_cut, rest.charge), min(at_harm, rest.charge)),
    )


def _days(amp_hours: float, drain_a: float) -> float:
    return math.inf if drain_a < LEAST_DRAIN_A else amp_hours / drain_a / HOURS_A_DAY


def _shown(days: float) -> float | None:
    return days if math.isfinite(days) else None
