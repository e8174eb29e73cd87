"""What lies in the pack besides cells and joints: weight, centre, holder, way out of the leads."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from lumvak.core.arrangement.findings import flaw_findings
from lumvak.core.arrangement.set_aside import part_flaws
from lumvak.core.cells.cell_model import of_cell
from lumvak.core.figures.figure import Figure, Rule, assumed, computed, sheet
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.edges import edge_findings, edge_volts
from lumvak.core.making.exits import exit_figures, exit_findings
from lumvak.core.making.holding import holder_findings
from lumvak.core.making.weight import Around, Weighed, centre_mm, weighed
from lumvak.core.said import listed, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
HOLDERS_COST = Rule("layout.holders_cost", "Cost of the holders", "money",
                    "two places a cell × cost", "methods 40")
MASS_KG = Rule("layout.mass_kg", "Pack without its case", "kg",
               "cells × mass + strips + holders + parts + leads; the case comes on top",
               "methods 40")
CENTRE_MM = Rule("layout.centre_{}_mm", "Centre of mass from the {}", "mm",
                 "mean of the middles of all that is in the pack, each by its mass", "methods 40")
# fmt: on

KINDS = {
    "strips": ("layout.conductor_g", "Strips and wires",
               "section × length × density, summed over all pieces", "methods 18 [3]"),
    "holders": ("layout.holders_g", "Holders", "two places a cell × mass of one", "methods 40"),
    "parts": ("layout.parts_g", "BMS, parts, barriers and plates",
              "each as said, of its sheet, or volume × density", "methods 40"),
    "leads": ("layout.leads_g", "Main and balance leads",
              "length × mass of a metre", "methods 40"),
}  # fmt: skip


class InPack(Struct, frozen=True):
    """All that is in a pack, weighed, as figures and findings."""

    things: tuple[Weighed, ...]
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    links: tuple[Link, ...] = ()


def in_pack(
    joined_pack: JoinedPack,
    around: Around,
    base: tuple[Figure, ...],
    series: Figure,
    parallel: Figure,
) -> InPack:
    """What lies in the pack (methods 40); ``base`` made the layout, ``series × parallel`` count."""
    things = weighed(joined_pack, around)
    total = sum(item.mass_g for item in things)
    kinds = {item.kind for item in things}
    made = [_of_kind(kind, things, base) for kind in KINDS if kind in kinds]
    each = of_cell(joined_pack.layout.cell, "mass_g", "Mass of a cell", "g")
    mass = MASS_KG.of(total / 1000.0, each, series, parallel, *made)
    corner = (*joined_pack.layout.corner_mm, 0.0)
    centre = tuple(
        CENTRE_MM.of(value - start, mass, *base[:2], key=axis, label=edge)
        for axis, edge, value, start in zip(
            "xyz", ("left edge", "upper edge", "floor"), centre_mm(things), corner, strict=True
        )
    )
    price: tuple[Figure, ...] = ()
    if around.holder is not None:
        one = sheet(
            "holder.price", "Place of a holder", around.holder.price, "money", around.holder.name
        )
        price = (HOLDERS_COST.of(2 * len(joined_pack.layout) * one.number, one, series, parallel),)
    out = exit_figures(joined_pack, around, base)
    return InPack(
        things, (*made, mass, *centre, *price, *out), tuple(_findings(joined_pack, around, out))
    )


def _of_kind(kind: str, things: tuple[Weighed, ...], base: tuple[Figure, ...]) -> Figure:
    """What all things of a kind weigh; assumed where one of them was not weighed."""
    key, label, rule, source = KINDS[kind]
    own = [item for item in things if item.kind == kind]
    grams = sum(item.mass_g for item in own)
    guessed = [item.name for item in own if not item.known]
    if not guessed:
        return computed(key, label, grams, "g", rule, source, *base)
    unknown = phrase("{}; not weighed: {}", rule, listed(dict.fromkeys(guessed)))
    return assumed(key, label, grams, "g", unknown, source, *base)


def _findings(
    joined_pack: JoinedPack, around: Around, out: tuple[Figure, ...]
) -> Iterator[Finding]:
    shape = joined_pack.placing.shape
    yield from flaw_findings(part_flaws(shape, around.arrangement), "arrangement", "warn")
    yield from holder_findings(joined_pack, around)
    yield from exit_findings(joined_pack, around, out)
    yield from edge_findings(edge_volts(joined_pack))
