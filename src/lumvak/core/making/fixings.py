"""Small parts that joints take besides metal that is cut: rings, screws, washers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lumvak.core.joints.contacts import Screw
from lumvak.core.making.cut_list import Cut
from lumvak.core.units import say


@dataclass(frozen=True, slots=True)
class Fixing:
    """A small part: what it is, and how many the pack takes."""

    name: str
    count: int


def fixings_of(cuts: Sequence[Cut], rings: int, screw: Screw | None) -> tuple[Fixing, ...]:
    """What is counted beside the ``cuts``: ``rings`` on positive ends, a screw on every post.

    A post has one screw however many bars lie on it, and a washer under its head.
    """
    found = [Fixing("insulating ring", rings)] if rings else []
    posts = {terminal for cut in cuts if cut.holes for terminal in cut.joins}
    if screw is not None and posts:
        found.append(Fixing(f"screw {screw.thread}", len(posts)))
        washer = f"washer {screw.thread}, {say(screw.washer_mm, 'mm')}"
        found.append(Fixing(washer, len(posts)))
    return tuple(found)
