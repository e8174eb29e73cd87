"""Parts that a pack takes besides metal that is cut: rings, screws, holders, barriers, plates."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from lumvak.core.arrangement.findings import BARRIER_MM
from lumvak.core.arrangement.layout import Barriers, Layout
from lumvak.core.catalogue.holders import Holder
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.core.joints.contacts import Screw
from lumvak.core.making.cut_list import Cut
from lumvak.core.said import Text, phrase, say, say_sides


class Fixing(Struct, frozen=True):
    """A small part: what it is, how many the pack takes, and what one costs where that is known."""

    name: Text
    count: int
    price: float | None = None


def fixings_of(cuts: Sequence[Cut], rings: int, screw: Screw | None) -> tuple[Fixing, ...]:
    """What is counted beside the ``cuts``: ``rings`` on positive ends, a screw on every post.

    A post has one screw however many bars lie on it, and a washer under its head.
    """
    found = [Fixing("insulating ring", rings)] if rings else []
    posts = {terminal for cut in cuts if cut.holes for terminal in cut.joins}
    if screw is not None and posts:
        found.append(Fixing(phrase("screw {}", screw.thread), len(posts)))
        washer = phrase("washer {}, {}", screw.thread, say(screw.washer_mm, "mm"))
        found.append(Fixing(washer, len(posts)))
    return tuple(found)


def around_cells(
    layout: Layout, barriers: Barriers, holder: Holder | None, plate_mm: float | None
) -> tuple[Fixing, ...]:
    """What holds the cells and lies between them: places of a holder, barriers, plates."""
    found = []
    if holder is not None:
        found.append(Fixing(phrase("place of {}", holder.name), 2 * len(layout), holder.price))
    face = say_sides((max(layout.cell.footprint_mm), layout.cell.height_mm))
    high = barriers.volts > TOUCH_SAFE_V
    for thick, which in zip(BARRIER_MM, (~high, high), strict=True):
        count = int(which.sum())
        if count:
            found.append(Fixing(phrase("barrier of {}, {}", say(thick, "mm"), face), count))
    if plate_mm is not None and layout.cell.diameter_mm is None:
        found.append(Fixing(phrase("compression plate of {}", say(plate_mm, "mm")), 2))
    return tuple(found)
