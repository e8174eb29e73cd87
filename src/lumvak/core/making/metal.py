"""The bare metal of a pack: its pieces as they are cut, the ends of main and balance leads."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Point, Polygon
from shapely.geometry.base import BaseGeometry

from lumvak.core.clearance.metal import Metal
from lumvak.core.clearance.planes import Ends
from lumvak.core.joints.pieces import Pieces
from lumvak.core.joints.take_off import Lead
from lumvak.core.making.cut_list import SHEET, WIRE_FORM, Cut, where

Index = NDArray[np.intp]
# The bare ends of leads, as radii in mm (methods 39).
LEAD_END_MM, TAP_END_MM = 2.5, 1.5


def metals_of(
    pieces: Pieces, ends: Ends, cuts: Sequence[Cut], leads: Sequence[Lead], taps: Index
) -> tuple[Metal, ...]:
    """Every bare piece as it lies; wires are insulated up to the joints that they end at.

    ``taps`` (series + 1,) are the terminals at which the balance leads are taken off, from lead 0
    upwards.
    """
    found = [
        Metal(name_of(pieces, cut), cut.plane, cut.level, shape_of(cut))
        for cut in cuts
        if cut.size.form != WIRE_FORM and cut.plane >= 0
    ]
    planes, level = ends.planes, pieces.layout.level
    for lead in leads:
        at = planes.uv_mm[lead.terminal]
        if lead.toward is not None:
            at = at + lead.share * (planes.uv_mm[lead.toward] - at)
        found.append(
            Metal(f"main lead {lead.pole}", int(planes.plane[lead.terminal]),
                  int(level[lead.terminal]), Point(*at).buffer(LEAD_END_MM))
        )  # fmt: skip
    for number, terminal in enumerate(taps.tolist()):
        place = Point(*planes.uv_mm[terminal]).buffer(TAP_END_MM)
        found.append(
            Metal(
                f"balance lead {number}", int(planes.plane[terminal]), int(level[terminal]), place
            )
        )
    return tuple(found)


def shape_of(cut: Cut) -> BaseGeometry:
    """The shape of a piece as it lies, all its strips side by side."""
    return shapely.union_all([Polygon(ring, cut.windows) for ring in cut.outlines])


def name_of(pieces: Pieces, cut: Cut) -> str:
    """A piece in words: what it joins, and where."""
    if cut.size.form == SHEET:
        return f"plate of {where(cut)}"
    named = pieces.name(cut.pieces[0])
    if len(cut.pieces) == 1:
        return named
    layout = pieces.layout
    one, other = (layout.name[cut.joins[end] // 2] for end in (0, -1))
    return f"{cut.size.role} strip {one} to {other}, {where(cut).partition(', ')[2]}"
