"""The figures of the balance leads: what a fault drives through them, and when they melt."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.conductors.melting import onderdonk_s
from lumvak.core.conductors.strip_and_wire import wire_ohm_per_m
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.taps.routes import Taps

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
MEAN_M = Rule("balance_leads.mean_m", "A balance lead, on average", "m", "mean of all routes",
              "methods 18")
TAPS_M = Rule("layout.taps_m", "Balance leads in all", "m",
              "along the edges to the nearest terminal × 1.15 + what both ends take, each",
              "methods 18")
FAULT_A = Rule("balance_leads.fault_a", "Two outer balance leads shorted give", "A",
               "full voltage ÷ (cells + two balance leads)", "methods 22")
MELTS_S = Rule("balance_leads.melts_s", "They melt after", "s",
               "Onderdonk: (A·√(log10((T_melt − T_a) ÷ (234 + T_a) + 1) ÷ 33) ÷ I)²",
               "methods 22 [7]")
# fmt: on


class TapFigures(Struct, frozen=True):
    """The balance leads as figures: their ``length``, a fault of the outer two, when they melt."""

    fault: Figure
    melts: Figure
    length: tuple[Figure, ...]


def tap_figures(
    leads: BalanceLeads,
    taps: Taps,
    cells_ohm: float,
    full: Figure,
    series: Figure,
    ambient: Figure,
) -> TapFigures:
    """The length of all balance leads, and a fault between the outer two (methods 18 and 22).

    ``cells_ohm`` is what the cells alone are, in ohm; ``full`` the full voltage of the pack.
    """
    whole = TAPS_M.of(
        float(taps.length_mm.sum()) / 1000.0,
        series,
        typed("balance_leads.spare_mm", "For both ends of a balance lead", leads.spare_mm, "mm"),
    )
    area = typed("balance_leads.area_mm2", "Section of a balance lead", leads.area_mm2, "mm²")
    length = MEAN_M.of(float(taps.length_mm.mean()) / 1000.0, series)
    ohm = 2.0 * length.number * wire_ohm_per_m(area.number)
    fault = FAULT_A.of(full.number / (ohm + cells_ohm), full, area, length)
    melts = MELTS_S.of(onderdonk_s(area.number, ambient.number, fault.number), fault, area, ambient)
    return TapFigures(fault, melts, (whole,))
