"""What each part of a found pack carries: continuously, for ten seconds, for one."""

from __future__ import annotations

import math
from functools import lru_cache

from msgspec import Struct

from lumvak.core.as_found.known import KnownOfPack
from lumvak.core.as_found.span import NO_LIMIT, Span, about, exactly, in_both, least_of
from lumvak.core.conductors.lead_wire import outer_mm
from lumvak.core.conductors.strip_and_wire import (
    MATERIALS,
    Cooling,
    Section,
    peak_factor,
    strip_rise_k,
    strip_time_constant_s,
    wire_current_a,
    wire_time_constant_s,
)
from lumvak.core.document.afterwards.as_found import AsFound, Metal
from lumvak.core.said import Text, phrase, say, say_sides, wire_name

# What is rated: continuously, and for so many seconds.
TIMES_S = (None, 10.0, 1.0)
# A strip rises by so much over its cells, one face of it in a closed pack, through welded ends.
RISE_K, INSIDE = 20.0, Cooling(5.0, 1, 60.0)
LEAD_RISE_K = 35.0
# How sure each is: strips by their cooling, leads and connectors by their place and their make.
STRIPS_OFF, LEADS_OFF, CONNECTOR_OFF = 0.22, 0.16, 0.12
# What nobody saw (ours): strips, leads, connector, fuse, BMS.
THICKNESS_MM, WIDTH_MM, LAYERS = Span(0.1, 0.15, 0.5), Span(4.0, 7.0, 30.0), Span(1.0, 1.0, 3.0)
METALS: tuple[Metal, ...] = ("plated steel", "nickel", "nickel-copper", "copper")
LEAD_MM2, CONNECTOR_A, FUSE_A = Span(0.5, 2.5, 25.0), Span(5.0, 30.0, 200.0), Span(5.0, 30.0, 200.0)
# A marking is often what it opens at; a switch carries so much, a shunt trips at so many volts.
MARKED, SWITCH_A, BOARD_A = Span(0.55, 0.8, 1.05), Span(6.0, 12.0, 25.0), Span(3.0, 20.0, 300.0)
SHUNT_A_OHM = Span(0.015, 0.04, 0.12)
BOARD_FOR = {None: exactly(1.0), 10.0: Span(1.1, 1.5, 2.2), 1.0: Span(1.2, 2.0, 3.2)}
FUSE_FOR = {None: Span(0.72, 0.8, 0.88), 10.0: Span(1.0, 1.35, 1.7), 1.0: Span(1.2, 2.0, 3.5)}
CONNECTOR_FOR = {None: exactly(1.0), 10.0: Span(1.2, 1.6, 2.0), 1.0: Span(1.4, 2.2, 3.5)}
STAGES = {
    "cells": "cells", "series-joints": "joints", "group-joints": "joints", "take-offs": "joints",
    "board": "power", "fuse": "power", "leads": "power", "connector": "power",
}  # fmt: skip


class FoundLink(Struct, frozen=True):
    """A part of a found pack: what it carries for each of TIMES_S, in A, and what it hangs on.

    ``fields`` are those of the record that set it.
    """

    key: str
    name: str
    detail: Text
    carries: tuple[Span, Span, Span]
    fields: tuple[str, ...]

    @property
    def continuous(self) -> Span:
        """What it carries continuously, in A."""
        return self.carries[0]


class Strips(Struct, frozen=True):
    """The strips of a pack as spans, and what one of them carries for each of TIMES_S."""

    count: Span
    carries: tuple[Span, Span, Span]


@lru_cache(maxsize=4096)
def one_strip_a(
    material: str, thickness_mm: float, width_mm: float, layers: int, length_mm: float
) -> tuple[float, float, float]:
    """What one strip between two cells carries for each of TIMES_S, in A (methods 9)."""
    section = Section(MATERIALS[material], thickness_mm, width_mm, layers, length_mm, INSIDE)
    steady = math.sqrt(RISE_K / strip_rise_k(section, 1.0))
    tau = strip_time_constant_s(section)
    return steady, steady * peak_factor(10.0, tau), steady * peak_factor(1.0, tau)


def strips_of(found: AsFound, known: KnownOfPack) -> Strips:
    """The strips on each series joint, as seen or as they may be."""
    parallel = known.parallel
    count = Span(1.0, max(1.0, math.ceil(parallel.value / 2.0)), max(1.0, parallel.high))
    if found.strips is not None:
        count = exactly(float(found.strips))
    corners = []
    for place, end in enumerate(("low", "value", "high")):
        corners.append(
            one_strip_a(
                found.metal or METALS[(0, 1, 3)[place]],
                found.thickness_mm or getattr(THICKNESS_MM, end),
                found.width_mm or getattr(WIDTH_MM, end),
                int(found.layers or getattr(LAYERS, end)),
                # The longest strip carries least.
                getattr(known.pitch_mm, ("high", "value", "low")[place]),
            )
        )
    spans = [Span(*ends).scaled(about(1.0, STRIPS_OFF)) for ends in zip(*corners, strict=True)]
    return Strips(count, (spans[0], spans[1], spans[2]))


def links_of(found: AsFound, known: KnownOfPack) -> tuple[FoundLink, ...]:
    """All parts of the path, from the cells to the plug."""
    strips = strips_of(found, known)
    return (
        _cells(known),
        _series_joints(found, strips),
        _group_joints(known, strips),
        _take_offs(found, known, strips),
        _board(found),
        _fuse(found),
        _leads(found),
        _connector(found),
    )


def held_for(links: tuple[FoundLink, ...], place: int) -> Span:
    """What all parts hold for one of TIMES_S, by its place there."""
    return least_of(it.carries[place] for it in links)


def weakest_of(links: tuple[FoundLink, ...], place: int = 0) -> FoundLink:
    """The part that is likely to set what all hold."""
    return min(links, key=lambda it: it.carries[place].value)


def _cells(known: KnownOfPack) -> FoundLink:
    each = known.cell_a.scaled(known.parallel)
    carries = (each, each.scaled(known.pulses[10.0]), each.scaled(known.pulses[1.0]))
    name: Text = "of unknown kind" if known.cell is None else known.cell.name
    fields = ("cell", "form", "parallel", "years", "cycles", "stored")
    return FoundLink("cells", "cells", name, carries, fields)


def _shaped(found: AsFound) -> Text:
    if found.thickness_mm is None or found.width_mm is None:
        return "strips not seen"
    sides = say_sides((found.thickness_mm, found.width_mm), "g g")
    metal = found.metal or "unknown metal"
    if found.strips is None:
        return phrase("{} strips of {}", metal, sides)
    if found.strips * (found.layers or 1) == 1:
        return phrase("one {} strip of {}", metal, sides)
    return phrase("{} {} strips of {}", found.strips * (found.layers or 1), metal, sides)


STRIP_FIELDS = ("strips", "layers", "thickness_mm", "width_mm", "metal", "form")


def _series_joints(found: AsFound, strips: Strips) -> FoundLink:
    carries = _times(strips, strips.count)
    return FoundLink("series-joints", "series connections", _shaped(found), carries, STRIP_FIELDS)


def _times(strips: Strips, by: Span) -> tuple[Span, Span, Span]:
    one, ten, second = (it.scaled(by) for it in strips.carries)
    return one, ten, second


def _group_joints(known: KnownOfPack, strips: Strips) -> FoundLink:
    """Where there are fewer strips than cells, the others' current comes along the group strips.

    Half of what one series strip carries comes from each side at most.
    """
    count, parallel = strips.count, known.parallel
    by = Span(
        2.0 * count.low if parallel.high > count.low else math.inf,
        2.0 * count.value if parallel.value > count.value else math.inf,
        2.0 * count.high if parallel.low > count.high else math.inf,
    )
    carries = _times(strips, by)
    fields = (*STRIP_FIELDS, "parallel")
    return FoundLink("group-joints", "group strips", "along the groups", carries, fields)


# How many sides a main lead's current comes from, and whether every cell's share passes there.
LEAVES = {"end": 1.0, "middle": 2.0}


def _take_offs(found: AsFound, known: KnownOfPack, strips: Strips) -> FoundLink:
    """Where the main leads leave: the cells beyond the last strip all pass there."""

    def sides(way: str | None, parallel: float, count: float) -> float:
        if parallel <= 1.0:
            return math.inf
        if way == "spread":
            return 2.0 * count if parallel > count else math.inf
        return LEAVES[way or "end"] * parallel / (parallel - 1.0)

    way, parallel, count = found.leads_leave, known.parallel, strips.count
    by = Span(
        min(sides(it, parallel.high, count.low) for it in _ways(way, "end")),
        sides(way or "end", parallel.value, count.value),
        max(sides(it, parallel.low, count.high) for it in _ways(way, "spread")),
    )
    fields = (*STRIP_FIELDS, "parallel", "leads_leave")
    detail: Text = {
        "end": "leads at the end",
        "middle": "leads at the middle",
        "spread": "leads spread over the group",
    }.get(way or "", "leads not seen")
    return FoundLink("take-offs", "lead strips", detail, _times(strips, by), fields)


def _ways(way: str | None, unseen: str) -> tuple[str, ...]:
    """The way that was seen, or all that may be; ``unseen`` among them."""
    return (way,) if way is not None else ("end", "middle", unseen)


def _over_times(continuous: Span, over: dict[float | None, Span]) -> tuple[Span, Span, Span]:
    first, ten, one = (continuous.scaled(over[seconds]) for seconds in TIMES_S)
    return first, ten, one


def _board(found: AsFound) -> FoundLink:
    fields = ("bms", "bms_a", "switches", "shunt_mohm")
    if found.bms == "none":
        return FoundLink("board", "BMS", "there is none", (NO_LIMIT,) * 3, fields)
    known = BOARD_A
    if found.bms_a is not None:
        known = in_both(known, MARKED.scaled(found.bms_a))
    if found.switches is not None:
        known = in_both(known, SWITCH_A.scaled(float(found.switches)))
    if found.shunt_mohm is not None:
        known = in_both(known, SHUNT_A_OHM.scaled(1e3 / found.shunt_mohm))
    seen = any(it is not None for it in (found.bms_a, found.switches, found.shunt_mohm))
    if found.bms is None and not seen:
        known = Span(known.low, known.value, math.inf)
    detail: Text = "not seen"
    if found.bms_a is not None:
        detail = phrase("marked {}", say(found.bms_a, "A"))
    elif seen:
        detail = "by its switches and shunts"
    elif found.bms is not None:
        detail = "without marks"
    return FoundLink("board", "BMS", detail, _over_times(known, BOARD_FOR), fields)


def _fuse(found: AsFound) -> FoundLink:
    fields = ("fuse", "fuse_a")
    if found.fuse == "none":
        return FoundLink("fuse", "main fuse", "there is none", (NO_LIMIT,) * 3, fields)
    if found.fuse_a is not None:
        rated, detail = exactly(found.fuse_a), phrase("rated {}", say(found.fuse_a, "A"))
        return FoundLink("fuse", "main fuse", detail, _over_times(rated, FUSE_FOR), fields)
    rated = FUSE_A
    if found.fuse is None:
        # Perhaps there is none, and then it sets no limit.
        rated = Span(rated.low, math.inf, math.inf)
    words = "not seen" if found.fuse is None else "without marks"
    return FoundLink("fuse", "main fuse", words, _over_times(rated, FUSE_FOR), fields)


def _leads(found: AsFound) -> FoundLink:
    area = LEAD_MM2 if found.lead_mm2 is None else exactly(found.lead_mm2)
    rows = []
    for end in ("low", "value", "high"):
        mm2 = getattr(area, end)
        outer = outer_mm(mm2)
        steady, tau = wire_current_a(mm2, outer, LEAD_RISE_K), wire_time_constant_s(mm2, outer)
        rows.append((steady, steady * peak_factor(10.0, tau), steady * peak_factor(1.0, tau)))
    spans = [Span(*ends).scaled(about(1.0, LEADS_OFF)) for ends in zip(*rows, strict=True)]
    detail: Text = "not seen" if found.lead_mm2 is None else wire_name(found.lead_mm2)
    return FoundLink("leads", "main leads", detail, (spans[0], spans[1], spans[2]), ("lead_mm2",))


def _connector(found: AsFound) -> FoundLink:
    rated = CONNECTOR_A if found.connector_a is None else exactly(found.connector_a)
    carries = _over_times(rated.scaled(about(1.0, CONNECTOR_OFF)), CONNECTOR_FOR)
    detail: Text = "not seen"
    if found.connector_a is not None:
        detail = phrase("rated {}", say(found.connector_a, "A"))
    return FoundLink("connector", "connector", detail, carries, ("connector_a",))
