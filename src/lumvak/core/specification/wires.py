"""What to look for in main and charge leads (methods 41): methods 11 and 22 as windows."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.power_parts import FUSE_FORMS, Insulation, Wire
from lumvak.core.conductors.lead_wire import (
    INSULATION_C,
    OFFERED_MM2,
    LeadWire,
    harm_curve,
    outer_mm,
    wire_limit_a,
)
from lumvak.core.conductors.strip_and_wire import (
    lead_film,
    peak_factor,
    wire_time_constant_s,
)
from lumvak.core.document.power import NONE, Leads
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, typed
from lumvak.core.power.fuses import FuseSetting, judge_fuse, rating_window
from lumvak.core.power.guarded_wire import opened_by, weak_short
from lumvak.core.specification.fuse import FuseAsked, charge_fuse_asked, main_fuse_asked
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by

# What sets the wire, as its window is called.
SECTION = "Section of the copper"
HALVINGS = 40
THINNEST_MM2, THICKEST_MM2 = 0.01, 1000.0
SCHOOL_REASONS = {
    "temperature": "thinnest that rises no more than allowed, and for the peak",
    "rule": "load ÷ A/mm² allowed",
    "loss": "length of both × ρ × load ÷ drop allowed",
}


class LeadsAsked(Struct, frozen=True, eq=False):
    """What is asked of a pair of leads, and the figures that it comes from.

    ``share`` is the part of the load in the one that carries most; ``fuse`` is what is asked of
    the fuse that guards them.
    """

    key: PartKey
    leads: Leads
    wire: LeadWire
    load: Figure
    peak: Figure
    duration: Figure
    ambient: Figure
    share: float
    fuse: FuseAsked
    guarded: bool
    needed: bool


def main_leads_asked(evaluation: Evaluation) -> LeadsAsked:
    """What is asked of the main leads of an evaluation."""
    sized, network = evaluation.sized, evaluation.laid_out.network
    demand, wire = sized.demand, sized.wire
    together = None if network is None else network.leads_limit
    share = 1.0 if together is None else wire.limit.number / together.number
    return LeadsAsked(
        "leads",
        evaluation.project.leads,
        wire=wire,
        load=sized.pack.current,
        peak=demand.peak,
        duration=demand.peak_duration,
        ambient=demand.ambient,
        share=share,
        fuse=main_fuse_asked(evaluation),
        guarded=evaluation.project.power.fuse != NONE,
        needed=True,
    )


def charge_leads_asked(evaluation: Evaluation) -> LeadsAsked:
    """What is asked of the charge leads of an evaluation."""
    power, demand = evaluation.power, evaluation.sized.demand
    flows = power.charge_current
    return LeadsAsked(
        "charge-leads",
        evaluation.project.charge_leads,
        wire=power.charge_wire,
        load=flows,
        peak=flows,
        duration=demand.peak_duration,
        ambient=demand.ambient,
        share=1.0,
        fuse=charge_fuse_asked(evaluation),
        guarded=evaluation.project.power.charge_fuse != NONE,
        needed=True,
    )


def leads_spec(asked: LeadsAsked) -> PartSpec:
    """The windows of a pair of leads, and how many metres of them."""
    return PartSpec(
        asked.key,
        tuple(_windows(asked)),
        quantity=2.0 * asked.leads.length_m,
        unit="m",
        needed=asked.needed,
    )


def _windows(asked: LeadsAsked) -> Iterator[FigureWindow]:
    make, leads, full = Maker(asked.key), asked.leads, asked.fuse.full
    by_load, guard = _least_area(asked), _guarded_area(asked)
    school = typed(f"{asked.key.replace('-', '_')}.school", "Sizing criterion", leads.school, "")
    made_from = (asked.load, asked.peak, school, asked.ambient)
    by_fuse = guard is not None and guard > by_load
    yield make.window(
        "area_mm2",
        SECTION,
        "mm²",
        least=by(
            max(by_load, guard or 0.0),
            "thinnest gauge that some fuse guards which holds what is drawn",
            *made_from,
            asked.fuse.least_short,
        )
        if by_fuse
        else by(by_load, SCHOOL_REASONS[leads.school], *made_from),
        set_by="fuse" if by_fuse else "continuous load",
        reason="copper all through: coated aluminium carries two thirds",
    )
    kind: Insulation = leads.insulation or "silicone"
    yield make.window(
        "insulation",
        "Insulation stands",
        "°C",
        least=by(INSULATION_C[kind][0], "what its limits here are worked out with"),
        set_by="rise allowed",
        reason="a printed class: 200 °C is silicone, 70 °C is PVC",
        must=False,
    )
    yield make.window(
        "voltage_v",
        "Insulation for",
        "V",
        least=by(full.number, "full voltage of the pack", full),
        set_by="full voltage",
        reason="usual wire is for 300 V or 600 V",
        must=False,
    )


def _least_area(asked: LeadsAsked) -> float:
    """Least section in mm² that carries load and peak by the criterion in force."""
    leads, load_a = asked.leads, asked.load.number * asked.share
    peak_a, film = asked.peak.number * asked.share, lead_film(leads.bundled)

    def does(area: float) -> bool:
        limit = wire_limit_a(_wire(area, leads), leads, asked.ambient.number)
        tau = wire_time_constant_s(area, leads.outer_mm or outer_mm(area), film)
        return limit >= load_a and limit * peak_factor(asked.duration.number, tau) >= peak_a

    low, high = THINNEST_MM2, THICKEST_MM2
    for _ in range(HALVINGS):
        middle = (low * high) ** 0.5
        low, high = (low, middle) if does(middle) else (middle, high)
    return high


def _wire(area_mm2: float, leads: Leads) -> Wire:
    """A wire of any section, as it is usual."""
    return Wire(
        id="any",
        name="any",
        area_mm2=area_mm2,
        outer_mm=leads.outer_mm or outer_mm(area_mm2),
        insulation=leads.insulation or "silicone",
        mass_g_per_m=0.0,
        price_per_m=0.0,
    )


def _with_wire(asked: LeadsAsked, area_mm2: float, outer: float, kind: Insulation) -> FuseSetting:
    """What is asked of the fuse with another wire behind it."""
    setting, film = asked.fuse.setting, lead_film(asked.leads.bundled)
    ambient = asked.ambient.number
    harm = harm_curve(area_mm2, outer, kind, ambient, film)
    return replace(setting, harm_a=harm, least_short_a=_least_short_a(asked, area_mm2))


def _least_short_a(asked: LeadsAsked, area_mm2: float) -> float:
    """The least that a short circuit gives with leads of another section."""
    if asked.key != "leads":
        return asked.fuse.setting.least_short_a
    return weak_short(asked.fuse.least_short, asked.wire).amps(asked.leads, area_mm2)


def _guarded_area(asked: LeadsAsked) -> float | None:
    """Section in mm² of the thinnest usual gauge that some fuse guards; ``None`` without a fuse."""
    if not asked.guarded:
        return None
    setting, least_a = asked.fuse.setting, partial(_least_short_a, asked)
    return opened_by(asked.leads, setting, OFFERED_MM2, least_a) or OFFERED_MM2[-1]


def some_fuse(setting: FuseSetting) -> bool:
    """Whether some rating of some usual form does."""
    return any(not rating_window(form, setting).empty for form in FUSE_FORMS)


def leads_missed(wire: Wire, asked: LeadsAsked, evaluation: Evaluation) -> tuple[str, ...]:
    """Fields of a wire that lie outside the windows that must hold."""
    limit = wire_limit_a(wire, asked.leads, asked.ambient.number) / asked.share
    film = lead_film(asked.leads.bundled)
    factor = peak_factor(
        asked.duration.number, wire_time_constant_s(wire.area_mm2, wire.outer_mm, film)
    )
    carries = limit >= asked.load.number * (1.0 - 1e-9)
    if not carries or limit * factor < asked.peak.number * (1.0 - 1e-9):
        return ("area_mm2",)
    if not asked.guarded:
        return ()
    setting = _with_wire(asked, wire.area_mm2, wire.outer_mm, wire.insulation)
    place = evaluation.power.fuse if asked.key == "leads" else evaluation.power.charge_fuse
    if place.automatic or place.part is None:
        return () if some_fuse(setting) else ("area_mm2",)
    return () if judge_fuse(place.part, setting).serves else ("area_mm2",)
