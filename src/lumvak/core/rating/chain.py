"""The chain: every part the current passes, with its limits, its demand and the weakest link."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from lumvak.core.figures.figure import Figure, Rule, computed
from lumvak.core.figures.link import Link
from lumvak.core.said import digits, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
OTHERS_A = Rule("rating.others_a", "All but the weakest link hold continuously", "A",
                "the least that any link but {} holds: {}", "methods 13")
# fmt: on

# The times that a pack is rated for in s; None is for good.
RATED_FOR_S = (None, 10.0, 1.0)


class Rating(Struct, frozen=True):
    """What the whole path holds for a time (``None``: for good), and the link that sets it."""

    seconds: float | None
    current_a: float
    link: Link


def rating(links: Sequence[Link], seconds: float | None) -> Rating | None:
    """The least that any link holds for a time; ``None`` where nothing sets a limit."""
    held = [
        (link.continuous_a if seconds is None else link.limit_a(seconds), link) for link in links
    ]
    limited = [(amps, link) for amps, link in held if math.isfinite(amps)]
    if not limited:
        return None
    amps, link = min(limited, key=lambda pair: pair[0])
    return Rating(seconds, amps, link)


def rating_figures(links: Sequence[Link]) -> tuple[Figure, ...]:
    """What the whole path holds for good, for 10 s and for 1 s, and what sets each (methods 13)."""
    found = [rating(links, seconds) for seconds in RATED_FOR_S]
    held = [
        computed(
            rating_key(item.seconds),
            "The path holds continuously"
            if item.seconds is None
            else phrase("The path holds for {} s", digits(item.seconds, "g")),
            item.current_a,
            "A",
            phrase("the least that any link holds for so long: {}", item.link.name),
            "methods 13",
            item.link.limit,
        )
        for item in found
        if item is not None
    ]
    first = weakest(links)
    others = weakest([link for link in links if link is not first])
    if first is not None and others is not None:
        held.append(OTHERS_A.of(others.continuous_a, others.limit, rule=(first.name, others.name)))
    return tuple(held)


def rating_key(seconds: float | None) -> str:
    """The key of the figure of a rating."""
    return "rating.continuous_a" if seconds is None else f"rating.{seconds:g}_s_a"


def weakest(links: Sequence[Link]) -> Link | None:
    """The link with the least continuous limit; ``None`` where nothing sets one."""
    limited = [link for link in links if math.isfinite(link.continuous_a)]
    return min(limited, key=lambda link: link.continuous_a, default=None)
