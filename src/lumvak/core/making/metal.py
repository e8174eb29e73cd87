"""The bare metal of a pack: its pieces as they lie, the ends of main and balance leads."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.folds import fold_between, half_outlines
from lumvak.core.arrangement.layout import FACE_NAMES
from lumvak.core.clearance.metal import Metals
from lumvak.core.clearance.planes import Ends
from lumvak.core.clearance.plates import LaidPlate, Plate, plate_shapes
from lumvak.core.clearance.widest import rectangles
from lumvak.core.joints.pieces import FOLD, Pieces
from lumvak.core.joints.take_off import Lead
from lumvak.core.said import Text, phrase

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
Shapes = NDArray[np.object_]
# The bare ends of leads, as radii in mm (methods 39).
LEAD_END_MM, TAP_END_MM = 2.5, 1.5


def plates_of(pieces: Pieces, ends: Ends, least_mm: float | None) -> tuple[LaidPlate, ...]:
    """One plate over all terminals of a level that meshed pieces join in one plane.

    ``least_mm`` is what was typed as the least distance of bare metal.
    """
    planes = ends.planes
    keys: dict[tuple[int, int], list[int]] = defaultdict(list)
    for piece in np.flatnonzero(pieces.meshed).tolist():
        keys[int(planes.plane[pieces.a[piece]]), int(pieces.level[piece])].append(piece)
    wanted = [
        Plate(plane, level, pieces.a[own], pieces.b[own])
        for (plane, level), own in sorted(keys.items())
    ]
    shapes = plate_shapes(pieces.layout, ends, wanted, least_mm)
    return tuple(
        LaidPlate(plate, tuple(own), shape)
        for plate, (_, own), shape in zip(wanted, sorted(keys.items()), shapes, strict=True)
    )


def whole_width(width_mm: Array, strips: Array) -> Array:
    """(M,) width in mm of pieces with all their strips side by side."""
    return np.asarray(width_mm * strips)


def metals_of(
    pieces: Pieces,
    width_mm: Array,
    wire: Mask,
    plates: Sequence[LaidPlate],
    reach_mm: float,
    ends: Ends,
) -> Metals:
    """Every bare piece as it lies; wires are insulated up to the joints that they end at.

    ``width_mm`` (M,) is that of each piece with all its strips side by side, ``wire`` (M,) which
    are wires, ``reach_mm`` how far a piece goes beyond its joints.
    """
    planes, levels = ends.planes, pieces.layout.level
    flat = np.flatnonzero(
        ~wire & ~pieces.meshed & (planes.plane[pieces.a] == planes.plane[pieces.b])
    )
    a, b = pieces.a[flat], pieces.b[flat]
    strips = rectangles(planes.uv_mm[a], planes.uv_mm[b], width_mm[flat], reach_mm)
    cut: Shapes = np.array([plate.shape for plate in plates], dtype=object)
    folded, ends_of_folds, halves = _halves(pieces, width_mm, reach_mm)
    strips = np.concatenate([strips, halves])
    flat = np.concatenate([flat, folded])
    # Of a plate any of its terminals tells where it is.
    of_plates = np.array([plate.plate.a[0] for plate in plates], dtype=np.intp)
    anchor = np.concatenate([a, ends_of_folds, of_plates])

    def name(place: int) -> Text:
        if place < len(flat):
            return pieces.name(int(flat[place]))
        plate = plates[place - len(flat)].plate
        return phrase("plate of tap {}, {}", plate.level, FACE_NAMES[planes.face[plate.plane]])

    return Metals(np.concatenate([strips, cut]), planes.plane[anchor], levels[anchor], name)


def _halves(pieces: Pieces, width_mm: Array, reach_mm: float) -> tuple[Index, Index, Shapes]:
    """What lies flat of folded strips: pieces, terminals there, and shapes up to the edge."""
    found: list[tuple[int, int, BaseGeometry]] = []
    for piece in np.flatnonzero(pieces.kind == FOLD).tolist():
        one, other = int(pieces.a[piece]), int(pieces.b[piece])
        fold = fold_between(pieces.layout, one, other)
        if fold is None:
            continue
        for terminal, half in zip(
            (one, other), half_outlines(fold, width_mm[piece], reach_mm), strict=True
        ):
            found.append((piece, terminal, shapely.Polygon(half)))
    shapes = np.empty(len(found), dtype=object)
    shapes[:] = [shape for *_, shape in found]
    return (
        np.array([piece for piece, *_ in found], dtype=np.intp),
        np.array([terminal for _, terminal, _ in found], dtype=np.intp),
        shapes,
    )


def with_leads(
    laid: Metals, level: Index, ends: Ends, leads: Sequence[Lead], taps: Index
) -> Metals:
    """The pieces, and after them the bare ends of main and balance leads.

    ``level`` (2 N,) is that of each terminal; ``taps`` (series + 1,) are the terminals at which the
    balance leads are taken off, from lead 0 upwards.
    """
    at = np.array([_lead_at(ends, lead) for lead in leads]).reshape(-1, 2)
    anchor = np.concatenate([np.array([lead.terminal for lead in leads], dtype=np.intp), taps])
    bare = (
        np.asarray(shapely.buffer(shapely.points(at), LEAD_END_MM)),
        np.asarray(shapely.buffer(shapely.points(ends.planes.uv_mm[taps]), TAP_END_MM)),
    )

    def name(place: int) -> Text:
        own = place - len(laid)
        if own < 0:
            return laid.name(place)
        return (
            phrase("main lead {}", leads[own].pole)
            if own < len(leads)
            else (phrase("balance lead {}", own - len(leads)))
        )

    return Metals(
        np.concatenate([laid.shape, *bare]),
        np.concatenate([laid.plane, ends.planes.plane[anchor]]),
        np.concatenate([laid.level, level[anchor]]),
        name,
    )


def _lead_at(ends: Ends, lead: Lead) -> Array:
    uv = ends.planes.uv_mm
    at = uv[lead.terminal]
    return np.asarray(at if lead.toward is None else at + lead.share * (uv[lead.toward] - at))
