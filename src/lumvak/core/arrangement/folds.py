"""Strips folded over an edge of the pack, from layer to layer of standing cells (methods 20).

A strip folds across its own way alone: both ends lie in one line across the edge.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import SAME_LINE_MM, Layout

# A strip may be twice as wide as this, in mm, and passes no end of another potential.
HALF_STRIP_MM = 6.0

Array = NDArray[np.float64]
Index = NDArray[np.intp]


class Fold(Struct, frozen=True, eq=False):
    """The middle line of a folded strip: (4, 3) in mm, from one end over two bends to the other."""

    points_mm: Array

    @property
    def legs_mm(self) -> tuple[float, float, float]:
        """Lengths in mm up to the first bend, down the side, and on to the other end."""
        one, side, other = np.linalg.norm(np.diff(self.points_mm, axis=0), axis=1).tolist()
        return one, side, other

    @property
    def length_mm(self) -> float:
        """Its whole length in mm, laid flat."""
        return sum(self.legs_mm)


def fold_between(layout: Layout, one: int, other: int) -> Fold | None:
    """The shortest way over an edge between two terminals of standing cells; ``None`` where none
    is straight.
    """
    if layout.axis[one // 2] or layout.axis[other // 2]:
        return None
    low_x, low_y = layout.corner_mm
    length, width, _ = layout.size_mm
    a, b = layout.terminal_mm[one], layout.terminal_mm[other]
    if abs(a[2] - b[2]) < SAME_LINE_MM:
        return None
    best: Fold | None = None
    for across, edges in ((0, (low_x, low_x + length)), (1, (low_y, low_y + width))):
        if abs(a[1 - across] - b[1 - across]) > SAME_LINE_MM:
            continue
        for edge in edges:
            bends = np.stack([a, b])
            bends[:, across] = edge
            made = Fold(np.stack([a, bends[0], bends[1], b]))
            if best is None or made.length_mm < best.length_mm:
                best = made
    return best


def folded_pairs(layout: Layout, one: Index, two: Index, count: int) -> tuple[Index, Index]:
    """Up to ``count`` pairs of the terminals ``one`` and ``two``, (n,): the shortest ways first.

    No terminal has two, and no strip lies under another: of those in one line the outermost. None
    passes over an end of another potential.
    """
    found = [
        (made.length_mm, int(a), int(b))
        for a in one.tolist()
        for b in two.tolist()
        if (made := fold_between(layout, a, b)) is not None and _free(layout, a, b, made)
    ]
    used: set[int] = set()
    lines: list[Array] = []
    chosen: list[tuple[int, int]] = []
    for _, a, b in sorted(found):
        made = fold_between(layout, a, b)
        assert made is not None
        bend = made.points_mm[1]
        if {a, b} & used or any(np.linalg.norm(bend - line) < SAME_LINE_MM for line in lines):
            continue
        used |= {a, b}
        lines.append(bend)
        chosen.append((a, b))
        if len(chosen) == count:
            break
    pairs = np.array(chosen, dtype=np.intp).reshape(-1, 2)
    return pairs[:, 0], pairs[:, 1]


def _free(layout: Layout, one: int, other: int, fold: Fold) -> bool:
    """Whether both halves pass over ends of their own potential alone, up to the edge."""
    a, edge_a, edge_b, b = fold.points_mm
    return _passes(layout, one, a, edge_a) and _passes(layout, other, b, edge_b)


def _passes(layout: Layout, end: int, start: Array, edge: Array) -> bool:
    at = layout.terminal_mm
    level_with = np.abs(at[:, 2] - start[2]) < SAME_LINE_MM
    way = edge[:2] - start[:2]
    far = float(np.linalg.norm(way))
    along = way / max(far, 1e-9)
    from_start = at[:, :2] - start[:2]
    ahead = from_start @ along
    aside = np.abs(from_start @ np.array([-along[1], along[0]]))
    near = level_with & (ahead > -SAME_LINE_MM) & (ahead < far)
    near &= aside < layout.cell.pitch_mm / 2.0 + HALF_STRIP_MM
    return not bool((layout.level[near] != layout.level[end]).any())


def half_outlines(
    fold: Fold, width_mm: float, reach_mm: float
) -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
    """The corners, seen from above, of what lies flat at both ends of a folded strip.

    Each begins ``reach_mm`` behind its joint and ends at the edge.
    """
    a, edge_a, edge_b, b = fold.points_mm[:, :2]
    return _half(a, edge_a, width_mm, reach_mm), _half(b, edge_b, width_mm, reach_mm)


def _half(
    start: Array, edge: Array, width_mm: float, reach_mm: float
) -> tuple[tuple[float, float], ...]:
    way = edge - start
    along = way / max(float(np.linalg.norm(way)), 1e-9)
    across = np.array([-along[1], along[0]]) * width_mm / 2.0
    begin = start - reach_mm * along
    corners = np.stack([begin - across, edge - across, edge + across, begin + across])
    return tuple((float(x), float(y)) for x, y in corners)
