"""Leads: section, drop, rise and what they carry by three schools, free or in a bundle."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.power_parts import Insulation, Wire
from lumvak.core.conductors.strip_and_wire import (
    COPPER,
    ROOM_C,
    lead_film,
    peak_factor,
    wire_current_a,
    wire_ohm_per_m,
    wire_rise_k,
    wire_time_constant_s,
)
from lumvak.core.document.power import Leads, School
from lumvak.core.figures.figure import Figure, Rule, sheet, typed
from lumvak.core.said import Text, capital, digits, phrase
from lumvak.core.spelling import awg_area_mm2, gauge_name
from lumvak.core.time_current import TIMES_S, Array, Lump, allowed_rise, hold_curve, lump_curve

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
AREA_MM2 = Rule("{}.area_mm2", "{}", "mm²", "{}", "methods 11")
LEAD_MM2 = Rule("{}.area_mm2", "{}", "mm²", "{}", "methods 11, 22")
COPPER_NOHM_M = Rule("constant.resistivity.copper", "Resistivity of copper", "nΩ·m", "at 20 °C",
                     "methods 8 [3]")
DROP_V = Rule("{}.drop_v", "Drop in both", "V", "current × resistance of both", "methods 11")
LOSS_W = Rule("{}.loss_w", "Heat in both", "W", "current² × resistance of both", "methods 11")
INSULATION_LIMIT_C = Rule("{}.insulation_c", "Insulation stands", "°C", "{}, continuous",
                          "methods 22 [6]")
LIMIT_BY_A = Rule("{}.limit_{}_a", "Carry by {}", "A", "{}", "methods 11")
INSULATION = Rule("{}.insulation", "Insulation", "", "silicone, as usual on packs", "methods 11")
PEAK_LEADS_OHM = Rule("path.peak_leads_ohm", "Both main leads, for the peak", "ohm",
                      "of the thinnest gauge that carries seven tenths of the peak continuously",
                      "methods 5, 11 [3]")
LIMIT_A = Rule("{}.limit_a", "{} carry", "A", "by the sizing criterion in force, {}: "
                                              "{}", "methods 11")
OUTER_MM = Rule("{}.outer_mm", "Outer diameter", "mm",
                "1.3 × copper diameter + 1.8 mm of insulation", "methods 11")
LEADS_OHM = Rule("path.leads_ohm", "Both main leads, to size with", "ohm",
                 "of the thinnest gauge that carries the current, or so much more that the drop "
                 "is never under that of a smaller current; the one in force is never thinner",
                 "methods 5, 11 [3]")
RESISTANCE_OHM = Rule("{}.resistance_ohm", "Both {}", "ohm",
                      "2 × length × ρ ÷ section, copper at 20 °C", "methods 11 [3]")
RISE_K = Rule("{}.rise_k", "Rise over the air", "K", "I²·R′ ÷ (h·π·D), h = {} W/(m²·K)",
              "methods 11")
# fmt: on

# Gauges as they are sold, in mm² after [5]; over them the sections of IEC 60228.
OFFERED_MM2 = (
    *map(awg_area_mm2, (22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0)),
    *(70.0, 95.0, 120.0, 150.0, 185.0, 240.0),
)
# Over the load, and of the peak, so that a fuse that holds both can still guard the wire.
MARGIN, OF_PEAK = 1.5, 0.7
STRAND_FACTOR, INSULATION_MM = 1.3, 1.8
# What an insulation stands in °C, for good and for up to 5 s; pvc and xlpe after [6].
INSULATION_C: dict[Insulation, tuple[float, float]] = {
    "pvc": (70.0, 160.0),
    "xlpe": (90.0, 250.0),
    "silicone": (180.0, 250.0),
    "ptfe": (200.0, 260.0),
}
INSULATION_NAMES: dict[Insulation, str] = {
    "pvc": "PVC",
    "xlpe": "cross-linked",
    "silicone": "silicone",
    "ptfe": "PTFE",
}
SHORT_S, STEADY_S = 5.0, 1000.0
# As warm a wire is under its load when a short circuit comes.
LOADED_C = 70.0
SCHOOL_RULES: dict[School, str] = {
    "temperature": "√(rise × h·π·D ÷ R′), no warmer than the insulation stands",
    "rule": "A/mm² × section",
    "loss": "drop allowed ÷ resistance of both",
}
LEAD_NAMES = {"leads": "main leads", "charge_leads": "charge leads"}


class LeadWire(Struct, frozen=True):
    """A pair of leads as figures; ``hold_a`` and ``harm_a`` are currents over TIMES_S."""

    area: Figure
    outer: Figure
    length: Figure
    ohm: Figure
    limit: Figure
    schools: Mapping[School, Figure]
    drop: Figure
    loss: Figure
    rise: Figure
    peak_limit_a: float
    hold_a: Array
    harm_a: Array
    part: Wire | None

    @property
    def name(self) -> str:
        """The wire in words, such as ``AWG 12``."""
        return self.part.name if self.part is not None else gauge_name(self.area.number)

    @property
    def figures(self) -> tuple[Figure, ...]:
        """All its figures."""
        return (*self.schools.values(), self.limit, self.ohm, self.drop, self.loss, self.rise)


def outer_mm(area_mm2: float) -> float:
    """Outer diameter in mm assumed for a silicone-insulated stranded wire (methods 11)."""
    return STRAND_FACTOR * math.sqrt(4.0 * area_mm2 / math.pi) + INSULATION_MM


class WireLoad(Struct, frozen=True):
    """What a wire must carry: for good, and for how long the peak."""

    current: Figure
    peak: Figure
    duration: Figure

    @property
    def every(self) -> tuple[Figure, Figure, Figure]:
        """All three, in their order."""
        return self.current, self.peak, self.duration

    @property
    def numbers(self) -> tuple[float, float, float]:
        """Continuous and peak current in A, and the length of the peak in s."""
        return self.current.number, self.peak.number, self.duration.number


def gauges_for(
    current_a: float, peak_a: float, peak_s: float, rise_k: float, film: float
) -> tuple[float, ...]:
    """Sections in mm2 of the offered gauges that carry a load with half to spare, thin to thick.

    Where none does it is the thickest alone. ``film`` in W/(m2 K).
    """
    for place, area in enumerate(OFFERED_MM2):
        limit = wire_current_a(area, outer_mm(area), rise_k, film)
        factor = peak_factor(peak_s, wire_time_constant_s(area, outer_mm(area), film))
        if limit >= max(MARGIN * current_a, OF_PEAK * peak_a) and limit * factor >= peak_a:
            return OFFERED_MM2[place:]
    return OFFERED_MM2[-1:]


@lru_cache(maxsize=256)
def harm_curve(
    area_mm2: float, outer: float, insulation: Insulation, ambient_c: float, film: float
) -> Array:
    """(T,) current in A that an insulated wire stands for each time (methods 22).

    The copper warms, its resistance with it, up to what the insulation stands: the short-circuit
    temperature for 5 s, the one for good from 1000 s on. An overload finds it in the air; a short
    circuit finds it warm from its load, at 70 degC or in air that is hotter, and the less of both
    currents counts. ``outer`` is in mm, ``film`` in W/(m2 K). The array is shared and not to be
    changed.
    """
    steady_c, short_c = INSULATION_C[insulation]
    rises = allowed_rise(short_c - ambient_c, max(steady_c - ambient_c, 1.0), SHORT_S, STEADY_S)
    overload = lump_curve(_copper(area_mm2, outer, ambient_c, film), np.maximum(rises, 1.0))
    warm_c = max(LOADED_C, ambient_c)
    short = lump_curve(
        _copper(area_mm2, outer, warm_c, film), np.full(TIMES_S.shape, max(short_c - warm_c, 1.0))
    )
    return np.minimum(overload, short)


def _copper(area_mm2: float, outer: float, from_c: float, film: float) -> Lump:
    """A wire's copper as a warm body that begins at ``from_c``."""
    warm = 1.0 + COPPER.per_kelvin * (from_c - ROOM_C)
    return Lump(
        wire_rise_k(area_mm2, outer, 1.0, film) * warm,
        wire_time_constant_s(area_mm2, outer, film),
        COPPER.per_kelvin / warm,
    )


def _schools(
    leads: Leads, key: str, made: tuple[Figure, ...], rise_k: float, film: float
) -> dict[School, Figure]:
    """What a pair of leads carries by each school (methods 11).

    ``made`` are section, outer diameter, resistance, bundle, what the insulation stands, ambient.
    """
    area, outer, ohm, bundled, stands, ambient = made
    inputs: dict[School, tuple[float, tuple[Figure, ...]]] = {
        "temperature": (
            wire_current_a(area.number, outer.number, rise_k, film),
            (
                typed(f"{key}.rise_limit_k", "Rise allowed over the air", leads.rise_limit_k, "K"),
                outer,
                area,
                bundled,
                stands,
                ambient,
            ),
        ),
        "rule": (
            leads.rule_a_per_mm2 * area.number,
            (typed(f"{key}.rule_a_per_mm2", "Rule, copper", leads.rule_a_per_mm2, "A/mm²"), area),
        ),
        "loss": (
            leads.loss_mv * 1e-3 / ohm.number,
            (typed(f"{key}.loss_mv", "Drop allowed in both leads", leads.loss_mv, "mV"), ohm),
        ),
    }
    return {
        school: LIMIT_BY_A.of(
            value, *given, key=(key, school), label=school, rule=SCHOOL_RULES[school]
        )
        for school, (value, given) in inputs.items()
    }


def least_drop_ohm_per_m(current_a: float, rise_k: float, film: float) -> float:
    """Resistance in ohm/m to size with: of the thinnest gauge that carries a current, or more.

    So much more that a larger current never drops less than a smaller one did on the gauge before:
    else more load would ask for fewer cells where the gauge steps. ``film`` is in W/(m2 K).
    """
    drop = 0.0
    for area in OFFERED_MM2:
        carries = wire_current_a(area, outer_mm(area), rise_k, film) / MARGIN
        ohm = wire_ohm_per_m(area)
        if carries >= current_a:
            return max(ohm, drop / current_a)
        drop = max(drop, carries * ohm)
    return max(ohm, drop / current_a)


def leads_to_size_with(leads: Leads, current: Figure, part: Wire | None) -> Figure:
    """Resistance in ohm of both main leads before the pack, and with it their fuse, is known.

    That of the wire named or typed; else of the thinnest gauge that carries the current, of which
    the one in force is never thinner (methods 5).
    """
    length = typed("leads.length_m", "Length of one lead", leads.length_m, "m")
    if part is not None or leads.area_mm2 is not None:
        area = _said_section(leads, part, "leads")
        return _both_ohm(leads, "leads", length, area)
    each = least_drop_ohm_per_m(current.number, leads.rise_limit_k, lead_film(leads.bundled))
    return LEADS_OHM.of(2.0 * leads.length_m * each, length, current)


def leads_for_peak(leads: Leads, peak: Figure, part: Wire | None) -> Figure:
    """The same for the peak, by which alone they are chosen here: seven tenths of it for good.

    So a larger continuous load never lets a peak pass more easily (methods 5).
    """
    if part is not None or leads.area_mm2 is not None:
        return leads_to_size_with(leads, peak, part)
    film = lead_film(leads.bundled)
    each = least_drop_ohm_per_m(OF_PEAK * peak.number, leads.rise_limit_k, film)
    return PEAK_LEADS_OHM.of(
        2.0 * leads.length_m * each,
        typed("leads.length_m", "Length of one lead", leads.length_m, "m"),
        peak,
    )


def _both_ohm(leads: Leads, key: str, length: Figure, area: Figure) -> Figure:
    return RESISTANCE_OHM.of(
        2.0 * leads.length_m * wire_ohm_per_m(area.number),
        length,
        COPPER_NOHM_M.of(COPPER.resistivity_ohm_m * 1e9, origin="constant"),
        area,
        key=key,
        label=LEAD_NAMES[key],
    )


def lead_wire(
    leads: Leads,
    load: WireLoad,
    ambient: Figure,
    part: Wire | None = None,
    key: str = "leads",
    guarded: Figure | None = None,
) -> LeadWire:
    """A pair of leads in force: the wire named, as typed, or the thinnest gauge that serves.

    ``key`` is where they stand in the project, ``leads`` or ``charge_leads``; ``guarded`` is the
    thinnest section that a fuse guards, where one does. It is long, for it lists figures one
    after the other, each made from those above it.
    """
    name = LEAD_NAMES[key]
    film = lead_film(leads.bundled)
    current = load.current
    area, outer, insulation = _section(leads, load, film, part, key, guarded)
    kind: Insulation = insulation.value  # type: ignore[assignment]
    length = typed(f"{key}.length_m", "Length of one lead", leads.length_m, "m")
    bundled = typed(
        f"{key}.bundled", "Lies in a bundle", "yes" if leads.bundled else "no", "", leads.bundled
    )
    ohm = _both_ohm(leads, key, length, area)
    room = max(INSULATION_C[kind][0] - ambient.number, 0.1)
    stands = INSULATION_LIMIT_C.of(
        INSULATION_C[kind][0], origin="constant", key=key, rule=INSULATION_NAMES[kind]
    )
    rise_k = min(leads.rise_limit_k, room)
    schools = _schools(leads, key, (area, outer, ohm, bundled, stands, ambient), rise_k, film)
    chosen = schools[leads.school]
    limit = LIMIT_A.of(
        chosen.number,
        chosen,
        typed(f"{key}.school", "Sizing criterion", leads.school, ""),
        key=key,
        label=capital(name),
        rule=(leads.school, SCHOOL_RULES[leads.school]),
    )
    drop = DROP_V.of(current.number * ohm.number, current, ohm, key=key)
    loss = LOSS_W.of(current.number**2 * ohm.number, current, ohm, key=key)
    rise = RISE_K.of(
        wire_rise_k(area.number, outer.number, current.number, film),
        current,
        outer,
        area,
        bundled,
        key=key,
        rule=digits(film, "g"),
    )
    tau = wire_time_constant_s(area.number, outer.number, film)
    hold = hold_curve(limit.number, tau)
    harm = harm_curve(area.number, outer.number, kind, ambient.number, film)
    return LeadWire(
        area,
        outer,
        length=length,
        ohm=ohm,
        limit=limit,
        schools=schools,
        drop=drop,
        loss=loss,
        rise=rise,
        peak_limit_a=limit.number * peak_factor(load.duration.number, tau),
        hold_a=hold,
        harm_a=harm,
        part=part,
    )


class WireOption(Struct, frozen=True):
    """A wire of the catalogue for a pair of leads: what it carries, drops and rises by."""

    part: Wire
    limit_a: float
    drop_v: float
    rise_k: float
    cost: float
    serves: bool


def wire_limits_a(part: Wire, leads: Leads, ambient_c: float) -> dict[School, float]:
    """What a wire carries in A by each criterion, in air of ``ambient_c`` (methods 11)."""
    room = max(INSULATION_C[part.insulation][0] - ambient_c, 0.1)
    rise_k, film = min(leads.rise_limit_k, room), lead_film(leads.bundled)
    both_ohm = 2.0 * leads.length_m * wire_ohm_per_m(part.area_mm2)
    return {
        "temperature": wire_current_a(part.area_mm2, part.outer_mm, rise_k, film),
        "rule": leads.rule_a_per_mm2 * part.area_mm2,
        "loss": leads.loss_mv * 1e-3 / both_ohm,
    }


def wire_limit_a(part: Wire, leads: Leads, ambient_c: float) -> float:
    """What a wire carries in A by the criterion in force."""
    return wire_limits_a(part, leads, ambient_c)[leads.school]


def wire_options(
    wires: Iterable[Wire], leads: Leads, current_a: float, ambient_c: float
) -> tuple[WireOption, ...]:
    """Every wire for a pair of leads: those that serve, thin to thick, then the others."""
    film = lead_film(leads.bundled)
    found = []
    for part in sorted(wires, key=lambda wire: (wire.area_mm2, wire.outer_mm)):
        ohm = 2.0 * leads.length_m * wire_ohm_per_m(part.area_mm2)
        limit = wire_limit_a(part, leads, ambient_c)
        found.append(
            WireOption(
                part,
                limit,
                current_a * ohm,
                wire_rise_k(part.area_mm2, part.outer_mm, current_a, film),
                2.0 * leads.length_m * part.price_per_m,
                limit >= current_a - 1e-9,
            )
        )
    return tuple(sorted(found, key=lambda option: not option.serves))


def _said_section(leads: Leads, part: Wire | None, key: str) -> Figure:
    """The section of the wire named, or as typed."""
    title = phrase("Section of the {}", LEAD_NAMES[key])
    if part is not None:
        return sheet(f"{key}.area_mm2", title, part.area_mm2, "mm²", part.name)
    return typed(f"{key}.area_mm2", title, leads.area_mm2, "mm²")


class _WireShape(NamedTuple):
    """Section, outer diameter and insulation of a wire."""

    area: Figure
    outer: Figure
    insulation: Figure


def _section(
    leads: Leads,
    load: WireLoad,
    film: float,
    part: Wire | None,
    key: str,
    guarded: Figure | None,
) -> _WireShape:
    """Section, outer diameter and insulation, from the wire named, as typed or as assumed."""
    if part is not None:
        return _WireShape(
            _said_section(leads, part, key),
            sheet(f"{key}.outer_mm", "Outer diameter", part.outer_mm, "mm", part.name),
            sheet(f"{key}.insulation", "Insulation", part.insulation, "", part.name),
        )
    area = (
        _said_section(leads, None, key)
        if leads.area_mm2 is not None
        else _proposed(leads, key, load, film, guarded)
    )
    outer = OUTER_MM.said_or(leads.outer_mm, outer_mm(area.number), area, key=key)
    insulation = INSULATION.said_or(leads.insulation, "silicone", key=key)
    return _WireShape(area, outer, insulation)


def _proposed(
    leads: Leads,
    key: str,
    load: WireLoad,
    film: float,
    guarded: Figure | None,
) -> Figure:
    """The section proposed: thick enough for the load, and for a fuse to guard it."""
    title = phrase("Section of the {}", LEAD_NAMES[key])
    least, *_ = gauges_for(*load.numbers, leads.rise_limit_k, film)
    rule: Text = (
        "thinnest gauge that carries the load with half in reserve and 0.7 of the peak continuously"
    )
    if guarded is None:
        return AREA_MM2.of(least, *load.every, key=key, label=title, rule=rule)
    rule = phrase("{}, and that a fuse guards", rule)
    area = max(least, guarded.number)
    return LEAD_MM2.of(area, *load.every, guarded, key=key, label=title, rule=rule)
