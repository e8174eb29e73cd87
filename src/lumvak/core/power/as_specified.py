"""Fuses and contacts made from the tight sides of their windows (methods 41)."""

from __future__ import annotations

from typing import Any, TypeVar

from msgspec.structs import replace

from lumvak.core.catalogue.power_parts import USUAL_BANDS, Connector, Fuse, Switch
from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.figures.figure import AS_SPECIFIED
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.point import Point
from lumvak.core.power.connectors import (
    ContactSetting,
    curve_of,
    judge_connector,
)
from lumvak.core.power.fuses import BREAKING_SPARE, FuseSetting, best_form, judge_fuse
from lumvak.core.power.place import Place
from lumvak.core.said import Text, phrase, say, say_about
from lumvak.core.time_current import at_time

# Ratings in which fuses are sold, in A.
RATINGS_A = (
    1.0, 2.0, 3.0, 4.0, 5.0, 6.3, 7.5, 8.0, 10.0, 12.5, 15.0, 16.0, 20.0, 25.0, 30.0, 32.0, 35.0,
    40.0, 50.0, 60.0, 63.0, 70.0, 80.0, 90.0, 100.0, 110.0, 125.0, 150.0, 160.0, 175.0, 200.0,
    225.0, 250.0, 300.0, 350.0, 400.0, 500.0, 600.0,
)  # fmt: skip
# Drop in V in a fuse at its rating, and in mated contacts, as they are usual.
FUSE_DROP_V, CONTACT_DROP_V = 0.08, 0.05
# So much over the tight side that no rounding is under it.
OVER = 1.0 + 1e-6
TRIES = 40
C = TypeVar("C", Connector, Switch)


def specified_note(
    code: str, name: str, near: Text, figure: str, *, chosen: bool = False
) -> Finding:
    """That a part as specified stands in a place, ``near`` says why; or that it was chosen so."""
    return Finding(
        f"{code}-as-specified",
        "note",
        text=phrase("No {} at hand serves: one as specified stands in its place", name)
        if not chosen
        else phrase("The {} is one as specified, still to be bought", name),
        why="All that follows counts with the tight sides of its windows."
        if chosen
        else near or "The catalogue has none.",
        do="Its windows say what to look for in a shop; enter what you find there.",
        stage="power",
        figure=figure,
    )


def nearest(name: str, reasons: tuple[Point, ...]) -> Text:
    """The part that comes nearest, and what speaks against it."""
    return phrase("Nearest: {} {}.", name, reasons[0].text) if reasons else ""


def nearest_in(place: Place[Any]) -> Text:
    """The part of a place that comes nearest, and what speaks against it."""
    near = next(iter(place.found), None)
    return "" if near is None else nearest(near.part.name, near.reasons)


def usual_rating_a(least_a: float, most_a: float) -> float:
    """The smallest rating that is sold in a window; the least itself where none is."""
    return next((it for it in RATINGS_A if least_a <= it <= most_a), least_a * OVER)


def demands(asked: FuseSetting, wire: Text) -> tuple[Text, Text]:
    """What a fuse must hold, and what it must spare or open by, as two demands on it."""
    _, window = best_form(asked)
    held = at_time(asked.drawn_a, window.least_s)
    holds = (
        phrase("carry {}", say(asked.current_a, "A"))
        if window.least_by == "load"
        else phrase("hold {} for {}", say(held, "A"), say_about(window.least_s))
    )
    spares = (
        phrase("spare {}", wire)
        if window.most_by == "wire"
        else phrase("open in a short circuit of {}", say(asked.least_short_a, "A"))
    )
    return holds, spares


def fuse_as_specified(setting: FuseSetting) -> Fuse | None:
    """The least fuse that does, of the form whose window is widest; ``None`` where none does."""
    form, window = best_form(setting)
    if window.empty:
        return None
    band, derate = USUAL_BANDS[form]
    rating = usual_rating_a(window.least_a, window.most_a)
    return Fuse(
        id=AS_SPECIFIED_ID,
        name=AS_SPECIFIED,
        form=form,
        rating_a=rating,
        voltage_dc_v=setting.full_v,
        breaking_a=BREAKING_SPARE * setting.short_a * OVER,
        band=band,
        derate_per_k=derate,
        resistance_mohm=FUSE_DROP_V / rating * 1e3,
        price=0.0,
    )


def or_fuse_as_specified(
    place: Place[Fuse], setting: FuseSetting, wanted: str | None
) -> Place[Fuse]:
    """The place, with a fuse as specified where it is ``wanted`` so, or none serves and one may."""
    if not _stands(place, wanted):
        return place
    made = fuse_as_specified(setting)
    return place if made is None else replace(place, chosen=judge_fuse(made, setting))


def _stands(place: Place[Any], wanted: str | None) -> bool:
    """Whether a part as specified stands in a place."""
    return wanted == AS_SPECIFIED_ID or (place.chosen is None and place.automatic)


def connector_as_specified(setting: ContactSetting) -> Connector:
    """The least connector that does."""
    made = Connector(
        id=AS_SPECIFIED_ID,
        name=AS_SPECIFIED,
        continuous_a=setting.current_a,
        short_a=1.2 * setting.current_a,
        short_s=10.0,
        mated_mohm=CONTACT_DROP_V / setting.current_a * 1e3,
        voltage_dc_v=setting.full_v,
        price=0.0,
    )
    return _holding(made, setting)


def switch_as_specified(setting: ContactSetting) -> Switch:
    """The least switch that does."""
    made = Switch(
        id=AS_SPECIFIED_ID,
        name=AS_SPECIFIED,
        kind="switch",
        continuous_a=setting.current_a,
        short_a=1.2 * setting.current_a,
        short_s=10.0,
        breaking_a=setting.current_a,
        voltage_dc_v=setting.full_v,
        resistance_mohm=CONTACT_DROP_V / setting.current_a * 1e3,
        price=0.0,
    )
    return _holding(made, setting)


def _holding(part: C, setting: ContactSetting) -> C:
    """The part, raised for a while and then for good until it holds what is drawn."""
    for tried in range(TRIES):
        lacks = float((setting.drawn_a / curve_of(part)).max())
        if lacks <= 1.0:
            break
        more = lacks * OVER
        if tried < TRIES // 2:
            part = replace(part, short_a=part.short_a * more)
        else:
            part = replace(part, continuous_a=part.continuous_a * more, short_a=part.short_a * more)
    return part


def or_connector_as_specified(
    place: Place[Connector], setting: ContactSetting, wanted: str | None
) -> Place[Connector]:
    """The place, with a connector as specified where it is ``wanted`` so, or none serves."""
    if not _stands(place, wanted):
        return place
    return replace(place, chosen=judge_connector(connector_as_specified(setting), setting))
