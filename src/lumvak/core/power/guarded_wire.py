"""Wire and fuse as one choice, and the charger that such a pair still carries (methods 22)."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import partial

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.power_parts import BandPoint, Fuse, Insulation
from lumvak.core.conductors.lead_wire import LeadWire, WireLoad, gauges_for, harm_curve, outer_mm
from lumvak.core.conductors.strip_and_wire import lead_film, wire_ohm_per_m
from lumvak.core.document.power import NONE, Leads
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.fuses import (
    FuseSetting,
    best_form,
    burnt_at,
    fuse_curves,
    goes_on,
    hold_a,
    melted_at,
    too_small,
    with_band,
)
from lumvak.core.time_current import Array

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CHARGER_A = Rule("power.charger_a", "A charger to be chosen gives", "A",
                 "no charger is known: the standard current of the cells, no more than 100 A and "
                 "than a charge fuse at hand carries", "methods 15, 22")
GUARDED_MM2 = Rule("{}.guarded_mm2", "Thinnest that a fuse guards", "mm²",
                   "thinnest gauge from that of the load on that a fuse at hand, which holds "
                   "what is drawn, guards as it melts at the latest", "methods 22")
# fmt: on

# Chargers that are bought give no more than this.
LARGEST_CHARGER_A = 100.0


class WeakShort(Struct, frozen=True):
    """A pack at its weakest, nearly empty, cold and worn: its rest voltage in V, and ohm in it."""

    volts: float
    ohm: float

    def amps(self, leads: Leads, area_mm2: float) -> float:
        """What a short circuit behind leads of a section gives in A (methods 22)."""
        return self.volts / (self.ohm + 2.0 * leads.length_m * wire_ohm_per_m(area_mm2))


def weak_short(least: Figure, wire: LeadWire) -> WeakShort:
    """The pack of the ``least`` short circuit that was worked out with a main ``wire``."""
    series, _, empty, *_ = least.inputs
    volts = series.number * empty.number
    return WeakShort(volts, volts / least.number - wire.ohm.number)


def guarded_wire(
    leads: Leads,
    fuses: Iterable[Fuse],
    wanted: str | None,
    load: WireLoad,
    drawn_a: Array,
    full_v: float,
    ambient: Figure,
    short_a: float,
    least_a: Callable[[float], float],
    key: str = "leads",
) -> Figure | None:
    """Section in mm2 of the thinnest gauge offered that a fuse guards; ``None`` where none does.

    Parameters: ``wanted`` is the fuse named, NONE, or ``None`` for any; ``load`` is what
    the wire carries; ``drawn_a`` (T,) the most that is drawn over TIMES_S; ``full_v``
    the voltage the fuse must stand; ``short_a`` the most that flows in a short circuit, ``least_a``
    the least by the section of the wire in mm2. ``None`` too where the wire or its section was
    said. Where none offered guards any, it is one that a fuse as specified guards.
    """
    if leads.wire is not None or leads.area_mm2 is not None or wanted == NONE:
        return None
    amps, celsius = load.current.number, ambient.number
    able = [
        fuse
        for fuse in fuses
        if (wanted is None or fuse.id == wanted)
        and not too_small(fuse, amps, full_v, short_a, celsius)
    ]
    film = lead_film(leads.bundled)
    insulation: Insulation = leads.insulation or "silicone"
    gauges = gauges_for(*load.numbers, leads.rise_limit_k, film)
    for area in gauges:
        harm = harm_curve(area, leads.outer_mm or outer_mm(area), insulation, ambient.number, film)
        least = least_a(area)
        if any(_guards(fuse, drawn_a, harm, short_a, least, ambient.number) for fuse in able):
            return GUARDED_MM2.of(area, *load.every, ambient, key=key)
    if wanted is not None:
        return None
    asked = FuseSetting(
        amps,
        drawn_a,
        harm_a=drawn_a,
        full_v=full_v,
        short_a=short_a,
        least_short_a=0.0,
        ambient_c=celsius,
        wire="",
    )
    area_mm2 = opened_by(leads, asked, gauges, least_a)
    return None if area_mm2 is None else GUARDED_MM2.of(area_mm2, *load.every, ambient, key=key)


def opened_by(
    leads: Leads,
    asked: FuseSetting,
    areas: Iterable[float],
    least_a: Callable[[float], float],
) -> float | None:
    """The first of sections in mm2 that some fuse of a usual form guards; ``None`` where none does.

    ``asked`` is what is asked of the fuse but for the wire, ``least_a`` the least short circuit by
    the section (methods 41).
    """
    film, kind = lead_film(leads.bundled), leads.insulation or "silicone"
    for area in areas:
        outer = leads.outer_mm or outer_mm(area)
        harm = harm_curve(area, outer, kind, asked.ambient_c, film)
        setting = replace(asked, harm_a=harm, least_short_a=least_a(area))
        if not best_form(setting).window.empty:
            return area
    return None


def _guards(
    fuse: Fuse,
    drawn_a: Array,
    harm_a: Array,
    short_a: float,
    least_short_a: float,
    ambient_c: float,
) -> bool:
    """Whether a fuse holds what is drawn and opens before a wire is harmed."""
    least, most = fuse_curves(fuse, ambient_c)
    if len(melted_at(least, drawn_a)) or goes_on(most, least_short_a, harm_a):
        return False
    return not len(burnt_at(np.minimum(most, short_a), harm_a))


def main_wire_guarded(
    leads: Leads,
    fuses: Sequence[Fuse],
    wanted: str | None,
    band: tuple[BandPoint, ...],
    load: WireLoad,
    draw: Draw,
    full_v: float,
    inside_ohm: float,
    weak: WeakShort,
    ambient: Figure,
) -> Figure | None:
    """As ``guarded_wire`` for the main leads, before the joints are solved.

    ``band`` is the melting band typed for the fuse ``wanted``, ``inside_ohm`` what lies in the way
    of a short circuit: the cells in its first milliseconds, and the joints as sizing counts them;
    ``weak`` is the pack at its weakest.
    """
    short_a = full_v / inside_ohm
    offered = with_band(fuses, wanted, band)
    return guarded_wire(
        leads,
        offered,
        wanted=wanted,
        load=load,
        drawn_a=draw.curve,
        full_v=full_v,
        ambient=ambient,
        short_a=short_a,
        least_a=partial(weak.amps, leads),
    )


def charge_flow(
    charger: Figure | None,
    standard: Figure,
    fuses: Sequence[Fuse],
    wanted: str | None,
    full_v: float,
    short_a: float,
    ambient: Figure,
) -> Figure:
    """What flows in A while charging (methods 15).

    What the ``charger`` gives. Where none is known, one for the ``standard`` current of the cells
    is thought of, no larger than chargers come and than a fuse at hand carries that stands
    ``full_v`` and breaks ``short_a``; ``wanted`` is the charge fuse that was named, if one was.
    """
    if charger is not None:
        return charger
    able = [
        hold_a(fuse, ambient.number)
        for fuse in fuses
        if not too_small(fuse, 0.0, full_v, short_a, ambient.number)
    ]
    most = min(max(able, default=0.0), LARGEST_CHARGER_A)
    if wanted is not None or not 0.0 < most < standard.number:
        return standard
    return CHARGER_A.assumed(most, standard, ambient)
