"""The figures of the balance leads: what a fault drives through them, and when they melt."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.conductors.melting import onderdonk_s
from lumvak.core.conductors.strip_and_wire import wire_ohm_per_m
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.taps.routes import Taps


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
    whole = computed(
        "layout.taps_m",
        "Balance leads in all",
        float(taps.length_mm.sum()) / 1000.0,
        "m",
        "along the edges to the nearest terminal × 1.15 + what both ends take, each",
        "methods 18",
        series,
        typed("balance_leads.spare_mm", "For both ends of a balance lead", leads.spare_mm, "mm"),
    )
    area = typed("balance_leads.area_mm2", "Section of a balance lead",
                 leads.area_mm2, "mm²")  # fmt: skip
    length = computed("balance_leads.mean_m", "A balance lead, on average",
                      float(taps.length_mm.mean()) / 1000.0, "m", "mean of all routes",
                      "methods 18", series)  # fmt: skip
    ohm = 2.0 * length.number * wire_ohm_per_m(area.number)
    fault = computed(
        "balance_leads.fault_a",
        "Two outer balance leads shorted give",
        full.number / (ohm + cells_ohm),
        "A",
        "full voltage ÷ (cells + two balance leads)",
        "methods 22",
        full,
        area,
        length,
    )
    melts = computed(
        "balance_leads.melts_s",
        "They melt after",
        onderdonk_s(area.number, ambient.number, fault.number),
        "s",
        "Onderdonk: (A·√(log10((T_melt − T_a) ÷ (234 + T_a) + 1) ÷ 33) ÷ I)²",
        "methods 22 [7]",
        fault,
        area,
        ambient,
    )
    return TapFigures(fault, melts, (whole,))
