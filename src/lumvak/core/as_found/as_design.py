"""What was seen of a pack as the design of its project, so that all stages speak of that pack."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from lumvak.core.as_found.known import KnownOfPack
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.power import NONE, picking

# A strip on offer this far from the one that was seen, in thickness or width, is another.
LIKE = 0.35
MOST_LAYERS = 12


def design_changes(found: AsFound, known: KnownOfPack, parts: Catalogue) -> dict[str, Any]:
    """The changes of a project, by path, that make its design what was seen; no others."""
    changes: dict[str, Any] = {}
    if known.series.ways:
        changes["pack.series"] = known.series.likely
    if found.parallel is not None:
        changes["pack.parallel"] = found.parallel
    if known.cell is not None:
        changes["pack.cell"] = known.cell.id
    changes |= _strips(found, parts)
    if found.leads_leave is not None:
        changes["joints.take_off"] = found.leads_leave
    if found.lead_mm2 is not None:
        changes |= {"leads.wire": None, "leads.area_mm2": found.lead_mm2}
    return changes | _power(found, known, parts)


def _strips(found: AsFound, parts: Catalogue) -> dict[str, Any]:
    """The strip on offer that is nearest to the one seen, in its layers and its number."""
    changes: dict[str, Any] = {}
    if found.thickness_mm is not None and found.width_mm is not None:
        near = _nearest(found, parts.conductors.values())
        if near is not None:
            changes |= {"joints.series.part": near.id, "joints.group.part": near.id}
    if found.layers is not None:
        layers = min(found.layers, MOST_LAYERS)
        changes |= {"joints.series.layers": layers, "joints.group.layers": layers}
    if found.strips is not None:
        changes["joints.series.strips"] = found.strips
    return changes


def _nearest(found: AsFound, offered: Iterable[Conductor]) -> Conductor | None:
    assert found.thickness_mm is not None and found.width_mm is not None
    thick, wide = found.thickness_mm, found.width_mm

    def off(part: Conductor) -> float:
        return max(abs(part.thickness_mm / thick - 1.0), abs(part.width_mm / wide - 1.0))

    able = [
        it
        for it in offered
        if it.form == "strip" and it.material == (found.metal or "nickel") and off(it) <= LIKE
    ]
    return min(able, key=off, default=None)


def _power(found: AsFound, known: KnownOfPack, parts: Catalogue) -> dict[str, Any]:
    changes: dict[str, Any] = {}
    if found.fuse == "none":
        changes |= picking("power.fuse", NONE)
    elif found.fuse_a is not None:
        alike = [it for it in parts.fuses.values() if it.rating_a == found.fuse_a]
        if alike:
            changes |= picking("power.fuse", min(alike, key=lambda it: it.price).id)
    if found.bms == "none":
        changes["protection.board"] = NONE
    elif found.bms_a is not None and known.series.ways:
        boards = [
            it
            for it in parts.boards.values()
            if it.kind in ("full", "protection")
            and it.family == known.chemistry.family
            and it.series == known.series.likely
            and it.ports == (found.ports or it.ports)
            and (it.balance_a > 0.0) == (found.bleeds is not False)
        ]
        near = min(boards, key=lambda it: abs(it.continuous_a - (found.bms_a or 0.0)), default=None)
        if near is not None:
            changes["protection.board"] = near.id
    if found.connector_a is not None:
        plugs = [it for it in parts.connectors.values() if it.continuous_a == found.connector_a]
        if plugs:
            changes |= picking("power.connector", min(plugs, key=lambda it: it.price).id)
    return changes
