"""What opens first: every curve of the path over time, and every pair that must be in order."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrays import distinct
from lumvak.core.figures.figure import Figure, computed
from lumvak.core.said import Text, digits, phrase
from lumvak.core.spelling import spoken
from lumvak.core.time_current import LOG_TIMES, STEP, TIMES_S, Array, times_at

Mask = NDArray[np.bool_]
CurveKind = Literal["load", "stage", "board", "fuse", "link", "harm"]
# Margins under this share are thin.
THIN = 0.10
# So many currents are tried for how far two curves are apart in time.
LEVELS = 24


class Curve(Struct, frozen=True, eq=False):
    """One part over time: ``low_a`` is where it may begin to open or is harmed, ``high_a`` where
    it surely has opened (the same where it is no band); (T,) over TIMES_S, pack amps.

    ``place`` is where in the project the part is set, empty where it is not. A board is there
    twice: each of its stages, and all of them together.
    """

    key: str
    name: Text
    kind: CurveKind
    low_a: Array
    high_a: Array
    detail: Text = ""
    place: str = ""


class Pair(Struct, frozen=True):
    """Two curves that must be in order: ``first`` under ``second`` over all times that matter.

    ``margin_a`` and ``margin`` (a share) are the least by which they are apart, at ``at_s``;
    ``fails_s`` are the stretches in which they are not in order.
    """

    first: str
    second: str
    names: tuple[Text, Text]
    why: Text
    margin_a: float
    margin: float
    at_s: float
    fails_s: tuple[tuple[float, float], ...]

    @property
    def holds(self) -> bool:
        """Whether they are in order over all times that matter."""
        return not self.fails_s

    @property
    def thin(self) -> bool:
        """In order, but hardly."""
        return self.holds and self.margin < THIN


def pair_of(first: Curve, second: Curve, why: Text, most_a: float, from_s: float = 0.0) -> Pair:
    """Compare two curves: what surely happens on the first against the least of the second.

    Nothing over ``most_a``, the prospective short-circuit current, can flow.
    """
    under = np.minimum(first.high_a, most_a)
    over = second.low_a
    window = from_s <= TIMES_S
    meets = window & np.isfinite(over) & (under > 0.0)
    apart = np.where(meets, over - under, np.inf)
    ratio = np.where(meets, over / np.maximum(under, 1e-12), np.inf)
    worst = int(np.argmin(ratio))
    wrong = window & (under > over * (1.0 + 1e-9))
    return Pair(
        first.key,
        second.key,
        names=(first.name, second.name),
        why=why,
        margin_a=float(apart[worst]),
        margin=float(ratio[worst]) - 1.0,
        at_s=float(TIMES_S[worst]),
        fails_s=_stretches(wrong, under, over),
    )


def _stretches(wrong: Mask, under: Array, over: Array) -> tuple[tuple[float, float], ...]:
    """From when to when a pair is out of order, to where the curves cross between two times."""
    places = np.flatnonzero(wrong)
    if not len(places):
        return ()
    cut = np.flatnonzero(np.diff(places) > 1)
    firsts = places[np.concatenate([[0], cut + 1])]
    lasts = places[np.concatenate([cut, [len(places) - 1]])]
    return tuple(
        (_crossing(int(a), int(a) - 1, under, over), _crossing(int(b), int(b) + 1, under, over))
        for a, b in zip(firsts, lasts, strict=True)
    )


def _crossing(wrong: int, right: int, under: Array, over: Array) -> float:
    """Time in s at which two curves cross between a place out of order and its neighbour."""
    if not 0 <= right < len(TIMES_S):
        return float(TIMES_S[wrong])
    excess, spare = under[wrong] / over[wrong], over[right] / under[right]
    steps = max(under[wrong], under[right]) > STEP * min(under[wrong], under[right])
    if steps or not (1.0 < excess < math.inf and 1.0 <= spare < math.inf):
        return float(TIMES_S[wrong])
    share = math.log(excess) / (math.log(excess) + math.log(spare))
    return math.exp(LOG_TIMES[wrong] + share * (LOG_TIMES[right] - LOG_TIMES[wrong]))


def unguarded(curves: Sequence[Curve], short_a: float, capacity_ah: float) -> tuple[Text, ...]:
    """Names of the parts that a current may harm before board or fuse has opened, sorted.

    No current lasts longer than the charge of a full pack.
    """
    opens = np.minimum(short_a, 3600.0 * capacity_ah / TIMES_S)
    for curve in curves:
        if curve.kind in ("board", "fuse"):
            opens = np.minimum(opens, curve.high_a)
    harmed = (curve for curve in curves if curve.kind == "harm")
    found = (curve.name for curve in harmed if np.any(opens > curve.low_a * (1.0 + 1e-9)))
    return tuple(sorted(found, key=spoken))


def crossing_key(pair: Pair) -> str:
    """The key of the figure of when a pair goes out of order."""
    return f"order.{pair.first}.{pair.second}_s"


def crossing_figures(pairs: Sequence[Pair], short: Figure) -> tuple[Figure, ...]:
    """From when on pairs are out of order; ``short`` is the dead short (methods 22)."""
    return tuple(
        computed(
            crossing_key(pair),
            phrase("Out of order: {} before {}", pair.names[0], pair.names[1]),
            pair.fails_s[0][0],
            "s",
            phrase(
                "from where on the one lies over the other, straight in log-log between two "
                "times; nearest or worst at {} s",
                digits(pair.at_s, ".3g"),
            ),
            "methods 22",
            short,
        )
        for pair in pairs
        if not pair.holds
    )


def time_ratio(first: Curve, second: Curve, most_a: float) -> float:
    """How many times sooner the first acts than the second, at the current where that is least.

    Infinite where the first is a load, or where they never act on the same current.
    """
    if first.kind == "load":
        return math.inf
    levels = distinct(second.low_a[np.isfinite(second.low_a) & (second.low_a <= most_a)])
    levels = levels[:: max(1, len(levels) // LEVELS)]
    acts, harmed = times_at(first.high_a, levels), times_at(second.low_a, levels)
    # What acts before the first time of the grid cannot be told apart.
    told = np.isfinite(acts) & (acts > TIMES_S[0])
    return float((harmed[told] / acts[told]).min(initial=math.inf))


def pairs_of(curves: Sequence[Curve], short_a: float) -> tuple[Pair, ...]:
    """Every pair that must be in order, for the curves there are."""
    by_kind: dict[str, list[Curve]] = {}
    for curve in curves:
        by_kind.setdefault(curve.kind, []).append(curve)
    return tuple(_pairs(by_kind, short_a))


def _pairs(by_kind: dict[str, list[Curve]], short_a: float) -> Iterable[Pair]:
    load = by_kind.get("load", [])
    boards, fuses = by_kind.get("board", []), by_kind.get("fuse", [])
    links, harmed = by_kind.get("link", []), by_kind.get("harm", [])
    for drawn in load:
        for stage in by_kind.get("stage", []):
            yield pair_of(drawn, stage, "the BMS must not trip in use", short_a)
        for item in (*fuses, *links):
            yield pair_of(drawn, item, phrase("the {} must not melt in use", item.name), short_a)
    # Within the board's quickest delay nothing of it has opened yet: that is the fuse's business.
    for board in boards:
        shortest = float(TIMES_S[np.isfinite(board.high_a)][0]) if len(board.high_a) else 0.0
        for item in (*fuses, *links):
            why = phrase("the BMS opens before the {} melts", item.name)
            yield pair_of(board, item, why, short_a, shortest)
        for part in harmed:
            why = phrase("the BMS opens before harm to the {}", part.name)
            yield pair_of(board, part, why, short_a, shortest)
    for fuse in fuses:
        for part in harmed:
            why = phrase("where the BMS fails, the fuse opens before harm to the {}", part.name)
            yield pair_of(fuse, part, why, short_a)
        for item in links:
            yield pair_of(fuse, item, "the main fuse opens before the cells' own links", short_a)
