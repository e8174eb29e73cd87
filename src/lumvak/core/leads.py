"""Main leads: section, drop and what they carry; a simple model of two wires in free air."""

from __future__ import annotations

import math
from dataclasses import dataclass

from lumvak.core.conductors import (
    peak_factor,
    wire_current_a,
    wire_ohm_per_m,
    wire_time_constant_s,
)
from lumvak.core.figures import Figure, computed, said_or, typed
from lumvak.core.project import Leads
from lumvak.core.units import awg_area_mm2, gauge_name

OFFERED_AWG = (22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0)
MARGIN = 1.25
STRAND_FACTOR, INSULATION_MM = 1.3, 1.8


@dataclass(frozen=True, slots=True)
class LeadWire:
    """The main leads as figures."""

    area: Figure
    outer: Figure
    length: Figure
    ohm: Figure
    limit: Figure
    peak_limit_a: float

    @property
    def name(self) -> str:
        """The wire in words, such as ``AWG 12``."""
        return gauge_name(self.area.number)


def outer_mm(area_mm2: float) -> float:
    """Outer diameter in mm assumed for a silicone-insulated stranded wire (methods 11)."""
    return STRAND_FACTOR * math.sqrt(4.0 * area_mm2 / math.pi) + INSULATION_MM


def wire_for(current_a: float, peak_a: float, peak_s: float, rise_k: float) -> float:
    """Section in mm2 of the thinnest offered gauge that carries a load with a quarter to spare."""
    for awg in OFFERED_AWG:
        area = awg_area_mm2(awg)
        limit = wire_current_a(area, outer_mm(area), rise_k)
        factor = peak_factor(peak_s, wire_time_constant_s(area, outer_mm(area)))
        if limit >= MARGIN * current_a and limit * factor >= peak_a:
            return area
    return awg_area_mm2(OFFERED_AWG[-1])


def lead_wire(leads: Leads, current: Figure, peak: Figure, duration: Figure) -> LeadWire:
    """The main leads in force: as typed, or the thinnest gauge that serves."""
    area = (
        typed("leads.area_mm2", "Section of the main leads", leads.area_mm2, "mm²")
        if leads.area_mm2 is not None
        else computed(
            "leads.area_mm2",
            "Section of the main leads",
            wire_for(current.number, peak.number, duration.number, leads.rise_limit_k),
            "mm²",
            "thinnest gauge that carries the load with a quarter to spare, and the peak",
            "methods 11",
            current,
            peak,
            duration,
        )
    )
    outer = said_or(
        "leads.outer_mm",
        "Outer diameter",
        leads.outer_mm,
        "mm",
        outer_mm(area.number),
        "1.3 × copper diameter + 1.8 mm of insulation",
        "methods 11",
        area,
    )
    length = typed("leads.length_m", "Length of one lead", leads.length_m, "m")
    rise = typed("leads.rise_limit_k", "Rise allowed over the air", leads.rise_limit_k, "K")
    ohm = computed(
        "leads.resistance_ohm",
        "Both main leads",
        2.0 * leads.length_m * wire_ohm_per_m(area.number),
        "ohm",
        "2 × length × ρ ÷ section, copper at 20 °C",
        "methods 11 [3]",
        length,
        area,
    )
    limit_a = wire_current_a(area.number, outer.number, leads.rise_limit_k)
    limit = computed(
        "leads.limit_a",
        "Main leads carry",
        limit_a,
        "A",
        "√(rise × h·π·D ÷ R′), h = 12 W/(m²·K)",
        "methods 11",
        rise,
        outer,
        area,
    )
    factor = peak_factor(duration.number, wire_time_constant_s(area.number, outer.number))
    return LeadWire(area, outer, length, ohm, limit, limit_a * factor)
