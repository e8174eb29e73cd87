"""What each step of strengthening a found pack buys, with its cost and its work."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.as_found.known import KnownOfPack
from lumvak.core.as_found.limits import (
    LEAD_MM2,
    LEAD_RISE_K,
    held_for,
    links_of,
    weakest_of,
)
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.strip_and_wire import wire_current_a
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.said import Text, phrase

MOST_STEPS = 6
# Minutes of work: a strip welded onto a joint, and a part changed at the leads (ours).
STRIP_MIN, OPENING_MIN, PART_MIN, BOARD_MIN = 4.0, 30.0, 20.0, 45.0
# Nickel of the usual section, where no like strip is on offer, in money for a metre.
USUAL_PER_M = 0.6


class FoundUpgrade(Struct, frozen=True):
    """One step: what is done, what the pack gives before and after, its cost, its minutes.

    ``cost`` is ``None`` where no part on offer does it.
    """

    link: str
    what: Text
    from_a: float
    to_a: float
    cost: float | None
    minutes: float


class _Step(Struct, frozen=True):
    changes: dict[str, Any]
    what: Text
    cost: float
    minutes: float


def upgrades_of(found: AsFound, known: KnownOfPack, parts: Catalogue) -> tuple[FoundUpgrade, ...]:
    """The next steps in order, each of what is then the weakest part."""
    return tuple(_steps(found, known, parts))


def _steps(found: AsFound, known: KnownOfPack, parts: Catalogue) -> Iterator[FoundUpgrade]:
    opened = 0.0
    for _ in range(MOST_STEPS):
        links = links_of(found, known)
        weak, now = weakest_of(links), held_for(links, 0).value
        others = [it for it in links if it is not weak and it.continuous.value > now * 1.001]
        enough = found.promised_a is not None and now >= found.promised_a
        if not others or weak.key == "cells" or enough:
            return
        # A part is bought once: for what was promised, or for all that its cells give.
        cells = next(it.continuous.value for it in links if it.key == "cells")
        target = min(max(found.promised_a or cells, now * 1.001), max(cells, now * 1.001))
        step = RAISED[weak.key](found, known, parts, target)
        if step is None:
            words = phrase("a stronger {}: nothing on offer", weak.name)
            yield FoundUpgrade(weak.key, words, from_a=now, to_a=now, cost=None, minutes=0.0)
            return
        found = replace(found, **step.changes)
        after = held_for(links_of(found, known), 0).value
        work = step.minutes + (OPENING_MIN if not opened else 0.0)
        opened = OPENING_MIN
        yield FoundUpgrade(
            weak.key, step.what, from_a=now, to_a=after, cost=step.cost, minutes=work
        )


def _strips(found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float) -> _Step | None:
    """One strip more on each series connection, or one layer more where each cell has its own."""
    joints = max(known.series.likely - 1, 1)
    count = found.strips or max(1, math.ceil(known.parallel.value / 2.0))
    length_m = joints * known.pitch_mm.value * 1e-3
    each = length_m * _per_m(found, parts)
    shape = _as_likely(found)
    minutes = joints * STRIP_MIN
    if count < known.parallel.value:
        changes = {**shape, "strips": count + 1}
        return _Step(changes, "one strip more on each series connection", each, minutes)
    layers = (found.layers or 1) + 1
    if layers > 4:
        return None
    changes = {**shape, "strips": count, "layers": layers}
    what = phrase("{} layers of strip on each series connection", layers)
    return _Step(changes, what, each * count, minutes * count)


def _as_likely(found: AsFound) -> dict[str, Any]:
    """The shape of strips that are not seen, as they likely are."""
    usual = {"thickness_mm": 0.15, "width_mm": 7.0, "metal": "nickel", "layers": 1}
    return {key: value for key, value in usual.items() if getattr(found, key) is None}


def _per_m(found: AsFound, parts: Catalogue) -> float:
    """What a metre of the nearest strip on offer costs."""
    area = (found.thickness_mm or 0.15) * (found.width_mm or 7.0)
    able = [it for it in parts.conductors.values() if it.form == "strip"]
    near = min(able, key=lambda it: abs(it.thickness_mm * it.width_mm - area), default=None)
    return USUAL_PER_M if near is None else near.price_per_m


def _layered(found: AsFound, known: KnownOfPack, parts: Catalogue, _: float) -> _Step | None:
    """A second layer along the groups carries what comes from the cells beside; both sides gain."""
    layers = (found.layers or 1) + 1
    if layers > 4:
        return None
    strips = known.series.likely * 2 * max(known.parallel.value - 1.0, 1.0)
    cost = strips * known.pitch_mm.value * 1e-3 * _per_m(found, parts)
    changes = {**_as_likely(found), "layers": layers}
    return _Step(changes, "one layer more along the groups", cost, strips * STRIP_MIN)


def _leaving(found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float) -> _Step | None:
    if found.leads_leave in (None, "end"):
        return _Step({"leads_leave": "middle"}, "main leads from the middle", 0.0, 2.0 * PART_MIN)
    if found.leads_leave == "middle":
        what = "main leads spread over the end groups"
        return _Step({"leads_leave": "spread"}, what, 0.5, 2.0 * PART_MIN)
    return _layered(found, known, parts, target_a)


def _cheapest(
    able: dict[float, tuple[float, str]], target_a: float
) -> tuple[float, float, str] | None:
    """Rating, cost and name of the cheapest that reaches ``target_a``, else of the strongest."""
    if not able:
        return None
    enough = {amps: it for amps, it in able.items() if amps >= target_a * 0.999}
    if not enough:
        amps = max(able)
        return amps, *able[amps]
    amps = min(enough, key=lambda it: enough[it][0])
    return amps, *enough[amps]


def _board(found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float) -> _Step | None:
    now = next(it for it in links_of(found, known) if it.key == "board").continuous.value
    able = {
        it.continuous_a: (it.price, it.name)
        for it in parts.boards.values()
        if it.kind == "full"
        and it.family == known.chemistry.family
        and it.series == known.series.likely
        and it.continuous_a > now
    }
    best = _cheapest(able, target_a)
    if best is None:
        return None
    # What a sheet says is what it carries: no marking to doubt.
    changes = {"bms": "there", "bms_a": best[0] / 0.8, "switches": None, "shunt_mohm": None}
    return _Step(changes, phrase("BMS {}", best[2]), best[1], BOARD_MIN)


def _fuse(found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float) -> _Step | None:
    full_v = known.series.groups.value * known.full_cell_v
    now = (found.fuse_a or 0.0) * 1.001
    able = {
        it.rating_a * 0.8: (it.price, it.name)
        for it in parts.fuses.values()
        if it.rating_a > now and it.voltage_dc_v >= full_v
    }
    best = _cheapest(able, target_a)
    if best is None:
        return None
    changes = {"fuse": "there", "fuse_a": best[0] / 0.8}
    what = phrase("fuse {}, where wire and BMS bear it", best[2])
    return _Step(changes, what, best[1], PART_MIN)


def _leads(found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float) -> _Step | None:
    now = found.lead_mm2 or LEAD_MM2.value
    able = {
        wire_current_a(it.area_mm2, it.outer_mm, LEAD_RISE_K): (it.price_per_m, it.name)
        for it in parts.wires.values()
        if it.area_mm2 > now
    }
    best = _cheapest(able, target_a)
    if best is None:
        return None
    area = next(it.area_mm2 for it in parts.wires.values() if it.name == best[2])
    return _Step({"lead_mm2": area}, phrase("main leads of {}", best[2]), best[1], PART_MIN)


def _connector(
    found: AsFound, known: KnownOfPack, parts: Catalogue, target_a: float
) -> _Step | None:
    full_v = known.series.groups.value * known.full_cell_v
    now = found.connector_a or 0.0
    able = {
        it.continuous_a: (2.0 * it.price, it.name)
        for it in parts.connectors.values()
        if it.continuous_a > now and it.voltage_dc_v >= full_v
    }
    best = _cheapest(able, target_a)
    if best is None:
        return None
    what = phrase("connector {}, a pair", best[2])
    return _Step({"connector_a": best[0]}, what, best[1], PART_MIN)


RAISED: dict[str, Callable[[AsFound, KnownOfPack, Catalogue, float], _Step | None]] = {
    "series-joints": _strips,
    "group-joints": _layered,
    "take-offs": _leaving,
    "board": _board,
    "fuse": _fuse,
    "leads": _leads,
    "connector": _connector,
}
