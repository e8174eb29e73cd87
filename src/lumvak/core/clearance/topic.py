"""Whether any metal lies where it must not, as figures, marks on the drawing and findings."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
import shapely
from msgspec import Struct

from lumvak.core.arrangement.findings import flaw_findings
from lumvak.core.arrangement.layout import FACE_A, FACE_B, Layout
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.arrangement.proposals import Placing
from lumvak.core.clearance.least import LEAST_MM, least_of
from lumvak.core.clearance.metal import Metals, Near, TooNear
from lumvak.core.clearance.planes import Ends
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.said import Text, capital, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
RINGS = Rule("clearance.rings", "Insulating rings", "",
             "positive ends whose own rim a piece crosses", "methods 39")
CLOSEST_MM = Rule("clearance.closest_mm", "Closest bare metal of different potential", "mm",
                  "least distance in the plane, of pieces, leads and ends of cells", "methods 39")
# fmt: on


TOUCHES, NEAR, CASE = "metal-touches", "metal-near", "metal-wall"


class ClearanceTopic(Struct, frozen=True, eq=False):
    """What lies too near on the ``ends``, as ``flaws`` to be drawn."""

    ends: Ends
    found: TooNear
    flaws: tuple[Flaw, ...]
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    links: tuple[Link, ...] = ()


def clearance_topic(
    found: TooNear,
    metals: Metals,
    ends: Ends,
    placing: Placing,
    least_mm: float | None,
    barrier_mm: float | None,
    full: Figure,
    series: Figure,
    parallel: Figure,
) -> ClearanceTopic:
    """What was ``found`` too near of the ``metals`` on the ``ends`` of a pack (methods 39).

    ``least_mm`` is what was typed as the least distance of bare metal, ``barrier_mm`` the thickness
    of what lies under pieces that cross others, ``full`` the pack's voltage when full; ``series``
    and ``parallel`` count it.
    """
    layout = placing.layout
    flaws = (
        *(_flaw(near, metals, ends, layout, barrier_mm) for near in _worst(found, metals, ends)),
        *_beyond(metals, ends, placing, min(LEAST_MM, least_mm or LEAST_MM)),
    )
    least = least_of(least_mm, full)
    closest = CLOSEST_MM.of(
        round(found.closest_mm, 2) if math.isfinite(found.closest_mm) else None, least
    )
    rings = RINGS.of(len(found.rings), series, parallel)
    return ClearanceTopic(
        ends,
        found,
        flaws,
        (least, closest, rings),
        tuple(_findings(flaws, found, barrier_mm)),
    )


def _worst(found: TooNear, metals: Metals, ends: Ends) -> list[Near]:
    """Of what is too near to one piece, the worst of each potential: one mark says it."""
    worst: dict[tuple[int, int], Near] = {}
    for near in found.near:
        level = int(metals.level[near.other]) if near.other >= 0 else int(ends.level[near.end])
        key = (near.metal, level)
        before = worst.get(key)
        if before is None or (near.apart_mm, -near.over_mm2) < (before.apart_mm, -before.over_mm2):
            worst[key] = near
    return list(worst.values())


def _flaw(near: Near, metals: Metals, ends: Ends, layout: Layout, barrier_mm: float | None) -> Flaw:
    """Something too near, in words and where it is drawn."""
    name = capital(metals.name(near.metal))
    plane = int(metals.plane[near.metal])
    if near.other >= 0:
        other = phrase("the {}", metals.name(near.other))
    else:
        ends_named = ("the positive end of {}", "the negative end of {}")
        of_end = "the rim of {}" if near.rim else ends_named[near.end % 2]
        other = phrase(of_end, layout.name[near.end // 2])
    volts = say(near.volts, "V") if near.volts else "a group"
    x, y = _on_drawing(plane, near.at_mm, ends, layout)
    face = int(ends.planes.face[plane])
    if near.touches:
        text = phrase("{} lies on {}: a short of {}", name, other, volts)
        do: Text = (
            "Use a narrower or shorter piece, another pattern or another way to lay the groups."
        )
        if barrier_mm is not None:
            text = phrase("{} crosses {}, {} apart", name, other, volts)
            do = phrase(
                "Lay the barrier of {} first, and join the piece over it.", say(barrier_mm, "mm")
            )
        return Flaw(TOUCHES, text, do, x, y, face)
    return Flaw(
        NEAR,
        phrase(
            "{} lies {} from {}; {} are wanted at {}",
            name,
            say(near.apart_mm, "mm"),
            other,
            say(near.least_mm, "mm"),
            volts,
        ),
        "Use a narrower or shorter piece, or lay a barrier between the two.",
        x,
        y,
        face,
    )


def _on_drawing(
    plane: int, at_mm: tuple[float, float], ends: Ends, layout: Layout
) -> tuple[float, float]:
    """Where a place of a plane is seen from above."""
    if ends.planes.face[plane] in (FACE_A, FACE_B):
        return at_mm
    own = np.flatnonzero(ends.planes.plane == plane)
    near = own[np.argmin(np.hypot(*(ends.planes.uv_mm[own] - np.array(at_mm)).T))]
    x, y, _ = layout.terminal_mm[near].tolist()
    return x, y


def _beyond(metals: Metals, ends: Ends, placing: Placing, least_mm: float) -> Iterator[Flaw]:
    """Pieces that reach over the wall of the room, or lie too near to one that may be metal."""
    if placing.shape is None or placing.lacks_room:
        return
    face = ends.planes.face[metals.plane]
    apart = shapely.distance(metals.shape, placing.shape.boundary)
    inside = shapely.covers(placing.shape, metals.shape)
    wrong = ((face == FACE_A) | (face == FACE_B)) & (~inside | (apart < least_mm - 1e-3))
    for place in np.flatnonzero(wrong).tolist():
        at = metals.shape[place].centroid
        how = (
            phrase("lies {} from the wall", say(float(apart[place]), "mm"))
            if inside[place]
            else "reaches over the wall"
        )
        yield Flaw(
            CASE,
            phrase(
                "{} {}; {} are wanted where the case is metal",
                capital(metals.name(place)),
                how,
                say(least_mm, "mm"),
            ),
            "Shorten the piece, move the cells away from the wall, or line it.",
            float(at.x),
            float(at.y),
            int(face[place]),
        )


def _findings(flaws: Sequence[Flaw], found: TooNear, barrier_mm: float | None) -> Iterator[Finding]:
    touching = [flaw for flaw in flaws if flaw.code == TOUCHES]
    yield from flaw_findings(touching, "joints", "stop" if barrier_mm is None else "warn")
    others = [flaw for flaw in flaws if flaw.code != TOUCHES]
    yield from flaw_findings(others, "joints", "warn")
    if found.rings:
        count = len(found.rings)
        yield Finding(
            "rings",
            "note",
            text=phrase(
                "{} positive ends want an insulating ring"
                if count > 1
                else "{} positive end wants an insulating ring",
                count,
            ),
            why="The rim around a positive end is the can, and that is the negative end: a piece "
            "that leaves the cap crosses it on a thin wrapper.",
            do="Stick the rings on before the first piece is joined.",
            stage="joints",
            figure="clearance.rings",
        )
