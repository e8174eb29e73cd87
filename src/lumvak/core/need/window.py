"""The voltage window of the equipment: rated, most and least voltage, typed or assumed."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.document.need import Need
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.said import Text, digits, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
MAX_VOLTAGE_V = Rule("need.max_voltage_v", "Maximum voltage", "V", "{}", "methods 2")
STOP_VOLTAGE_V = Rule("need.stop_voltage_v", "Low-voltage cut-off", "V", "{}", "methods 2")
NICKEL_CELLS = Rule("need.nickel_cells", "Nickel cells in the old pack", "",
                    "rated voltage ÷ 1.2 V a cell", "methods 2")
# fmt: on

# Volts per nickel cell: rated, fresh off the charger, empty; methods 2.
NICKEL_RATED_V = 1.2
NICKEL_FRESH_V = 1.45
NICKEL_EMPTY_V = 1.0
# Rated volts of vehicles that are a class: so many cells of a cobalt type; methods 2.
VEHICLE_CLASSES = {24.0: 7, 36.0: 10, 48.0: 13, 52.0: 14, 60.0: 16, 72.0: 20}
COBALT_FULL_V, BLOCK_V = 4.2, 12.0
# Share of the rated voltage where equipment stops, by kind, and why; methods 2.
STOP_SHARES = {
    "vehicle": (0.80, "controllers of vehicles let a lead cell down to 1.6 V under load"),
    "supply": (0.86, "inverters and converters give up at 1.72 V a lead cell"),
    "portable": (0.86, "inverters and converters give up at 1.72 V a lead cell"),
}
# Volts per lead cell: rated, where a lead charger's bulk charge ends, and full; methods 2.
LEAD_RATED_V = 2.0
LEAD_CHARGE_V = 2.40
LEAD_FULL_V = 2.45


class VoltageWindow(Struct, frozen=True):
    """What the equipment is rated for, survives and stops at, as figures in V.

    ``binds`` is whether it stops there by itself: an old tool only weakens. ``read_otherwise_v`` is
    what it would survive, were its rated voltage read as that of lead cells.
    """

    rated: Figure
    highest: Figure
    stop: Figure
    figures: tuple[Figure, ...]
    binds: bool = True
    read_otherwise_v: float | None = None

    @property
    def stop_words(self) -> str:
        """What the low-voltage cut-off is, as drawings name it."""
        return "low-voltage cut-off" if self.binds else "was used to"


def lead_cells(need: Need) -> int:
    """How many lead cells the equipment is made for."""
    return max(1, round(need.rated_voltage_v / LEAD_RATED_V))


def voltage_window(need: Need) -> VoltageWindow:
    """The voltage window, typed or assumed by the kind of equipment (methods 2).

    It is long, for each kind of equipment has its own rule for either end.
    """
    rated = typed("need.rated_voltage_v", "Rated voltage", need.rated_voltage_v, "V")
    otherwise_v = None
    if need.kind == "tool":
        basis = _nickel_cells(need, rated)
        highest_v, stop_v = NICKEL_FRESH_V * basis.number, NICKEL_EMPTY_V * basis.number
        highest_rule: Text = "1.45 V × nickel cells, fresh off the old charger"
        stop_rule: Text = (
            "1.0 V × nickel cells: what it was used to. It has no cut-off of its own, and only the "
            "BMS's under-voltage point ends the run"
        )
    else:
        basis = rated
        stop_share, why = STOP_SHARES[need.kind]
        highest_v, stop_v = LEAD_FULL_V * lead_cells(need), stop_share * rated.number
        highest_rule = "2.45 V × lead cells (rated voltage ÷ 2 V), full on a lead charger"
        cells = VEHICLE_CLASSES.get(need.rated_voltage_v) if need.kind == "vehicle" else None
        if cells is not None:
            as_lead_v = round(highest_v, 6)
            highest_v = COBALT_FULL_V * cells
            highest_rule = phrase(
                "{} V is a class of vehicles: {} cells of {} V when full",
                digits(need.rated_voltage_v, "g"),
                cells,
                digits(COBALT_FULL_V, "g"),
            )
            # Lead comes in blocks of six cells.
            if need.rated_voltage_v % BLOCK_V == 0.0 and highest_v < as_lead_v:
                otherwise_v = as_lead_v
        stop_rule = phrase("{} × rated voltage: {}", digits(stop_share, "g"), why)
    # Without the noise of the last digits, for counts are exact to the volt.
    highest_v, stop_v, seen = round(highest_v, 6), round(stop_v, 6), basis
    if need.kind == "tool" and need.old_charger_stop_v is not None:
        highest_v = need.old_charger_stop_v
        highest_rule = "where the old charger stopped: so much the tool has seen"
        seen = typed(
            "need.old_charger_stop_v", "The old charger stopped at", need.old_charger_stop_v, "V"
        )
    highest = MAX_VOLTAGE_V.said_or(
        need.max_voltage_v, max(highest_v, need.rated_voltage_v), seen, rule=highest_rule
    )
    stop = STOP_VOLTAGE_V.said_or(
        need.stop_voltage_v, min(stop_v, need.rated_voltage_v), basis, rule=stop_rule
    )
    binds = need.kind != "tool" or need.stop_voltage_v is not None
    if need.max_voltage_v is not None:
        otherwise_v = None
    return VoltageWindow(rated, highest, stop, (rated,), binds, otherwise_v)


def _nickel_cells(need: Need, rated: Figure) -> Figure:
    return NICKEL_CELLS.said_or(
        need.nickel_cells, max(1, round(need.rated_voltage_v / NICKEL_RATED_V)), rated
    )
