"""What there is to notice on the fuses and on what opens first."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from msgspec import Struct

from lumvak.core.bms.verdicts import BoardVerdict
from lumvak.core.catalogue.power_parts import FUSE_FORMS, Fuse
from lumvak.core.conductors.lead_wire import OFFERED_MM2, LeadWire
from lumvak.core.document.power import AS_SPECIFIED_ID, NONE, Leads, PowerParts
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.power.as_specified import demands, nearest_in, specified_note
from lumvak.core.power.fuses import FuseSetting, best_form
from lumvak.core.power.guarded_wire import opened_by, weak_short
from lumvak.core.power.opening_order import crossing_key
from lumvak.core.power.place import Place
from lumvak.core.power.power_path import Power
from lumvak.core.said import listed, phrase, say, say_about, say_span, wire_name


def fuse_findings(
    power: Power, wanted: PowerParts, wire: LeadWire, leads: Leads, charge_leads: Leads
) -> Iterator[Finding]:
    """What speaks against the main fuse and the charge fuse, as ``wanted``.

    ``wire`` are the main leads, as ``leads`` says.
    """
    main = FuseSeen(
        "fuse",
        "main fuse",
        power.fuse,
        power.fuse_asked,
        wire=wire,
        path="leads",
        leads=leads,
        least_a=partial(weak_short(power.short_least_a, wire).amps, leads),
    )
    yield from _fuse_in(power.short_a, main, wanted.fuse)
    if power.fuse.part is not None and wanted.fuse_place == "output":
        yield Finding(
            "fuse-late",
            "warn",
            text="The main fuse sits at the output: a short before it is not guarded",
            why="Leads, BMS and joints lie between the cells and the fuse.",
            do="Set it as near to the cells' positive end as can be.",
            stage="power",
            figure="power.fuse_a",
        )
    charge = FuseSeen(
        "charge-fuse",
        "charge fuse",
        power.charge_fuse,
        power.charge_fuse_asked,
        wire=power.charge_wire,
        path="charge_leads",
        leads=charge_leads,
        least_a=lambda _: power.short_least_a.number,
    )
    yield from _fuse_in(power.short_a, charge, wanted.charge_fuse)


class FuseSeen(Struct, frozen=True):
    """A fuse in its place, and what is asked of it; ``least_a`` by the section of its wire."""

    code: str
    name: str
    place: Place[Fuse]
    asked: FuseSetting
    wire: LeadWire
    path: str
    leads: Leads
    least_a: Callable[[float], float]


def _contradiction(seen: FuseSeen) -> Finding:
    """No fuse of a usual form does: which two demands contradict, and what would open it."""
    form, window = best_form(seen.asked)
    gauges = [it for it in OFFERED_MM2 if it > seen.wire.area.number * 1.01]
    thicker = opened_by(seen.leads, seen.asked, gauges, seen.least_a)
    holds, spares = demands(seen.asked, seen.wire.name)
    return Finding(
        f"{seen.code}-window",
        "stop",
        text=phrase("The {} must {} and {}: no fuse does both", seen.name, holds, spares),
        why=phrase(
            "The nearest, {}, would be of {} at the least for the one and of {} at the most for "
            "the other.",
            FUSE_FORMS[form],
            say(window.least_a, "A"),
            say(window.most_a, "A"),
        ),
        do=phrase("{} would; or a shorter peak, or less current.", wire_name(thicker))
        if thicker is not None
        else "Take shorter leads, more cells in parallel, a shorter peak or less current.",
        stage="power",
        figure=f"{seen.path}.area_mm2",
    )


def _fuse_in(short: Figure, seen: FuseSeen, wanted: str | None) -> Iterator[Finding]:
    chosen, code, name = seen.place.chosen, seen.code, seen.name
    if chosen is None and wanted != NONE:
        yield _contradiction(seen)
        return
    if chosen is None:
        yield Finding(
            f"no-{code}",
            "warn",
            text=phrase("There is no {}", name),
            why=phrase(
                "A short circuit gives {}, and nothing but the BMS ends it.",
                say(short.value, "A"),
            ),
            do="BMSs fail closed; a fuse does not.",
            stage="power",
            figure=short.key,
        )
        return
    if chosen.part.id == AS_SPECIFIED_ID:
        figure = f"power.{code.replace('-', '_')}_hold_a"
        own = seen.place.automatic
        yield specified_note(code, name, nearest_in(seen.place), figure, chosen=not own)
    for reason in chosen.reasons:
        yield Finding(
            f"{code}-{reason.code}",
            "stop",
            text=phrase("{}, the {}, {}", chosen.part.name, name, reason.text),
            why={
                "load": "It would melt under normal load, or grow tired until it does.",
                "melts": "It would melt in normal use.",
                "never": "In a short circuit it would go on glowing.",
                "wire": "The wire would burn before it opens.",
            }.get(reason.code, "It could not end a short circuit safely."),
            do=reason.help,
            stage="power",
            figure=short.key
            if reason.code in ("never", "breaking")
            else f"power.{code.replace('-', '_')}_hold_a",
        )


def order_findings(power: Power, verdict: BoardVerdict | None) -> Iterator[Finding]:
    """What opens that should not, and what is harmed before anything opens.

    ``verdict`` is that on the board: what it says already is not said twice.

    It is long, for there is a sentence or two for each thing to say.
    """
    wrong = [pair for pair in power.pairs if not pair.holds]
    for pair in wrong:
        if pair.first not in ("load", "surge"):
            continue
        since = pair.fails_s[0][0]
        code = {"fuse": "fuse-melts", "link": "links-melt"}.get(pair.second, "board-trips")
        if code == "board-trips" and verdict is not None and verdict.reasons:
            # The board's own reasons already tell which stage it is.
            continue
        if pair.second == "fuse" and power.fuse.chosen and power.fuse.chosen.reasons:
            continue
        yield Finding(
            code,
            "stop",
            text=phrase(
                "The {} opens the {}, from {} on", pair.first, pair.names[1], say_about(since)
            ),
            why=phrase("It is over by {} at {}.", say(-pair.margin_a, "A"), say_about(pair.at_s)),
            do="A part with more margin, a shorter peak, or a gentler start.",
            stage="power",
            figure=crossing_key(pair),
        )
    late = [pair for pair in wrong if pair.first == "board" and pair.second in ("fuse", "link")]
    for pair in late:
        if pair.second == "fuse" and power.fuse.automatic:
            # The fuse that is proposed lies as low as it may: that is its work.
            continue
        yield Finding(
            "fuse-before-board" if pair.second == "fuse" else "links-before-board",
            "note",
            text=phrase(
                "The {} may melt before the BMS opens, {}",
                pair.names[1],
                say_span(*pair.fails_s[0]),
            ),
            why="An overload then costs a fuse instead of a wait.",
            do="A slower or larger fuse, where the wire allows it; else live with it.",
            stage="power",
            figure=crossing_key(pair),
        )
    open_ = power.unguarded
    if open_ and power.fuse.part is not None:
        yield Finding(
            "overload-unguarded",
            "note",
            phrase("A lasting overload harms {} before anything opens", listed(open_, " and ")),
            phrase(
                "{} is the smallest fuse that holds the load, and lets more pass than that "
                "part stands; the BMS trips higher still.",
                power.fuse.part.name,
            )
            if power.fuse.automatic
            else "Neither BMS nor fuse opens soon enough for every current over the load.",
            "See “protection”: a larger part, more strip, or a BMS set lower."
            if power.fuse.automatic
            else "See “protection”; a smaller fuse, a lower BMS setting, or a larger part.",
            "power",
        )
