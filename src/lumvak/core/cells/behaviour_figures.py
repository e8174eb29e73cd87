"""What is taken of a cell's behaviour, as figures: from its curves, or of its chemistry."""

from __future__ import annotations

from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell, Chemistry
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import minimum_capacity, of_cell, resistance
from lumvak.core.figures.figure import Figure, Rule, assumed, computed
from lumvak.core.said import phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
ENTROPY_MV_PER_K = Rule("cell.entropy_mv_per_k", "OCV by temperature", "mV/K", "{}",
                        "methods 4")
FULL_AH = Rule("cell.full_ah", "Between full and empty, by OCV", "Ah",
               "the slowest discharge of the sheet of {}, its own sag put back", "methods 25")
COUNTED_AH = Rule("cell.counted_ah", "Least capacity, between full and empty, by OCV", "Ah",
                  "least capacity × what the drawn curves hold by OCV ÷ typical capacity",
                  "methods 25")
# fmt: on


def counted_capacity(cell: Cell, behaviour: Behaviour) -> Figure:
    """The least capacity in Ah that is counted: of a cell with drawn curves, what they hold."""
    least = minimum_capacity(cell)
    if behaviour.fit is None:
        return least
    return COUNTED_AH.of(
        behaviour.capacity_scale * least.number,
        least,
        of_cell(cell, "capacity_typical_ah", "Typical capacity", "Ah"),
        FULL_AH.of(behaviour.fit.full_ah, rule=cell.name),
    )


def ten_second_resistance(cell: Cell, behaviour: Behaviour) -> Figure:
    """DC resistance in ohm after 10 s: of the sheet, else from its curves, else a fallback."""
    said = resistance(cell)
    fit = behaviour.fit
    if cell.resistance_dc_ohm is not None or fit is None or not fit.resistance_fitted:
        return said
    return computed(
        said.key,
        said.label,
        behaviour.ten_second_ohm,
        "ohm",
        phrase("from the discharges of the sheet of {} at two currents", cell.name),
        "methods 25",
    )


def entropy_figure(chemistry: Chemistry, behaviour: Behaviour) -> Figure:
    """How the rest voltage changes with temperature, in mV/K, which makes the reversible heat."""
    rule = phrase("taken for all cells of its family, {}", FAMILY_NAMES[chemistry.family])
    value = 1000.0 * behaviour.entropy_v_per_k
    return ENTROPY_MV_PER_K.assumed(value, rule=rule)


def lag_figure(cell: Cell, chemistry: Chemistry, behaviour: Behaviour) -> Figure:
    """By how many seconds of the rate the surface lags the charge of a cell."""
    key, label = "cell.lag_s", "Lag of the surface"
    if behaviour.fit is not None and behaviour.fit.resistance_fitted:
        rule = phrase("from the discharges of the sheet of {} at two currents", cell.name)
        return computed(key, label, behaviour.lag_s, "s", rule, "methods 25")
    rule = phrase("taken for all cells of its family, {}", FAMILY_NAMES[chemistry.family])
    return assumed(key, label, behaviour.lag_s, "s", rule, "methods 4")
