"""Laying the strips: patterns along the groups and across the series joints, and wires."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.connected import components, spanning
from lumvak.core.arrangement.folds import fold_between, folded_pairs
from lumvak.core.arrangement.layout import FACE_NAMES, Layout
from lumvak.core.arrays import distinct
from lumvak.core.clearance.planes import planes_of
from lumvak.core.clearance.widest import Lines
from lumvak.core.document.joints import Pattern, PieceChange, Scheme
from lumvak.core.joints.pieces import (
    ADDED,
    FOLD,
    GROUP,
    SERIES,
    TIE,
    WIRE,
    Pieces,
    terminal_number,
)

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
# Both ends of some pieces, what they are, strips side by side, and which are sides of a sheet.
Run = tuple[Index, Index, int, Array, Mask]
WIRE_SLACK = 1.25
WIRE_ENDS_MM = 20.0
# Posts that lie opposite are as near as the nearest, give or take so much.
OPPOSITE_MM = 1.0


class Plan(Struct, frozen=True):
    """What is laid: the scheme, the pattern of each side, how many series strips a joint has.

    Strips that are ``folded`` over an edge join layers, where they may; else wires do.
    """

    scheme: Scheme
    side_a: Pattern
    side_b: Pattern
    group_strips: int
    series_strips: int
    discrete: bool
    folded: bool
    changes: tuple[PieceChange, ...]


@lru_cache(maxsize=24)
def laid(layout: Layout, plan: Plan) -> Pieces:
    """Every piece of a pack; kept, for the currents change more often than the strips."""
    found: list[Run] = []
    patterns = _patterns(layout, plan)
    within, between = _edges(layout)
    _lay_groups(layout, plan, patterns, within, found)
    _lay_series(layout, plan, patterns, between, found)
    made = _joined(layout, found)
    return _changed(made, plan.changes) if plan.changes else made


def lines_of(layout: Layout, scheme: Scheme, side_a: Pattern, side_b: Pattern) -> Lines:
    """Where flat pieces may come to lie: along the groups and on every place of each joint."""
    made = laid(
        layout,
        Plan(
            scheme,
            side_a,
            side_b=side_b,
            group_strips=1,
            series_strips=layout.parallel,
            discrete=False,
            folded=False,
            changes=(),
        ),
    )
    kept = ~made.meshed & ((made.kind == GROUP) | (made.kind == SERIES))
    return Lines(made.a[kept], made.b[kept], made.kind[kept] == SERIES)


def _patterns(layout: Layout, plan: Plan) -> list[Pattern]:
    """The pattern of each face; where terminals look sideways the pattern of side A holds."""
    return [plan.side_a, plan.side_b, plan.side_a, plan.side_b]


def _edges(layout: Layout) -> tuple[Index, Index]:
    """Neighbours within a group, and neighbours of which the second is in the next group."""
    pairs = layout.neighbours
    step = layout.group[pairs[:, 1]] - layout.group[pairs[:, 0]]
    within = pairs[step == 0]
    if layout.cell.diameter_mm is None:
        # Side by side a strip from plus to plus would cross a minus.
        within = within[layout.stacked(within)]
    return within, pairs[step == 1]


def _face_pairs(layout: Layout, pairs: Index, face: int) -> tuple[Index, Index, Index]:
    """Terminals of pairs of cells that lie on one face, and which pairs those are."""
    if layout.cell.diameter_mm is None:
        return _flat_pairs(layout, pairs, face)
    faces = layout.face.reshape(-1, 2)
    on_one, on_other = faces[pairs[:, 0]] == face, faces[pairs[:, 1]] == face
    both = on_one.any(axis=1) & on_other.any(axis=1)
    which = np.flatnonzero(both)
    one = 2 * pairs[which, 0] + on_one[which, 1]
    two = 2 * pairs[which, 1] + on_other[which, 1]
    # Ends of one face may lie in several planes, a cell's length apart.
    plane = planes_of(layout).plane
    level = plane[one] == plane[two]
    return one[level], two[level], which[level]


def _flat_pairs(layout: Layout, pairs: Index, face: int) -> tuple[Index, Index, Index]:
    """The posts or tabs of flat cells that lie opposite each other: both where two stand face to
    face, the two in between where they stand side by side.
    """
    ends = [(2 * pairs[:, 0] + one, 2 * pairs[:, 1] + two) for one in (0, 1) for two in (0, 1)]
    places = layout.terminal_mm
    apart = np.stack([np.linalg.norm(places[a] - places[b], axis=1) for a, b in ends])
    opposite = apart < apart.min(axis=0, initial=np.inf) + OPPOSITE_MM
    a, b = (np.concatenate(column) for column in zip(*ends, strict=True))
    which = np.tile(np.arange(len(pairs)), 4)
    kept = opposite.ravel() & (layout.face[a] == face) & (layout.face[b] == face)
    return a[kept], b[kept], which[kept]


def _lay_groups(
    layout: Layout,
    plan: Plan,
    patterns: list[Pattern],
    within: Index,
    found: list[Run],
) -> None:
    """Strips along the groups; strings have them at the pack's ends, or thin ties at each level."""
    if not len(within) and layout.parallel > 1:
        _tie_loose(layout, within, plan, found)
        return
    chains = _chains(layout, within)
    levels = layout.level
    for face in range(len(FACE_NAMES)):
        full = patterns[face] in ("crossed", "sheet", "tabs")
        one, two, which = _face_pairs(layout, within, face)
        alike = one % 2 == two % 2
        one, two, which = one[alike], two[alike], which[alike]
        kept = np.ones(len(one), dtype=bool) if full else chains[which]
        meshed = np.full(len(one), patterns[face] in ("sheet", "tabs"))
        kind = np.full(len(one), WIRE if patterns[face] == "wire" else GROUP)
        if plan.scheme != "groups":
            inner = (levels[one] > 0) & (levels[one] < layout.series)
            kind = np.where(inner, TIE, kind)
            kept &= ~inner | (chains[which] & (plan.scheme == "strings-levels"))
            meshed &= ~inner
        for own in distinct(kind[kept]):
            chosen = kept & (kind == own)
            strips = np.full(int(chosen.sum()), float(plan.group_strips if own == GROUP else 1))
            found.append((one[chosen], two[chosen], int(own), strips, meshed[chosen]))
    _tie_loose(layout, within, plan, found)


def _chains(layout: Layout, within: Index) -> Mask:
    """Which neighbours within a group a plain strip joins: lines along it, then what links them."""
    apart = np.abs(
        np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)[within[:, 0]]
        - np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)[within[:, 1]]
    )
    group = layout.group[within[:, 0]]
    # Along y unless the group has more neighbours along x.
    sideways = apart[:, 0] > apart[:, 1]
    more = np.bincount(group, weights=np.where(sideways, 1.0, -1.0), minlength=layout.series)
    along = sideways == (more[group] > 0)
    weight = np.where(along, 1.0, 2.0)
    return spanning(len(layout), within[:, 0], within[:, 1], weight)


def _lay_series(
    layout: Layout,
    plan: Plan,
    patterns: list[Pattern],
    between: Index,
    found: list[Run],
) -> None:
    """Links from the positive ends of each group to the negative ends of the next."""
    levels = layout.level
    joined = np.zeros(layout.series + 1, dtype=bool)
    if len(between):
        parts = []
        for face in range(len(FACE_NAMES)):
            one, two, which = _face_pairs(layout, between, face)
            # On each face only the joint that was meant for it; the other face holds no link.
            meant = _meant(layout, one, two, which, between)
            parts.append((one[meant], two[meant], np.full(int(meant.sum()), face)))
        one, two, faces = (np.concatenate(column) for column in zip(*parts, strict=True))
        joint = layout.group[one // 2] + 1
        joined[joint] = True
        sheeted = np.array([pattern in ("sheet", "tabs") for pattern in patterns])[faces]
        wired = np.array([pattern == "wire" for pattern in patterns])[faces]
        strips = np.ones(len(one))
        order = np.lexsort((layout.y_mm[one // 2], layout.x_mm[one // 2], joint))
        one, two, joint, sheeted, wired = (
            item[order] for item in (one, two, joint, sheeted, wired)
        )
        wanted = layout.parallel if plan.scheme != "groups" else plan.series_strips
        for level in range(1, layout.series):
            here = np.flatnonzero(joint == level)
            if not len(here) or sheeted[here].all():
                continue
            strips[here] = _shared_out(layout, one[here], two[here], wanted, plan.discrete)
        kept = strips > 0.0
        for own, mask in ((SERIES, ~wired), (WIRE, wired)):
            chosen = kept & mask
            found.append((one[chosen], two[chosen], own, strips[chosen], sheeted[chosen]))
    _wire_across(layout, plan, joined, levels, found)


def _meant(layout: Layout, one: Index, two: Index, which: Index, between: Index) -> Mask:
    """Whether a pair of terminals is where the joint between two groups was meant to be.

    The face of a joint is that of most positive ends of the lower group; a turned cell there lies
    under the strip with its other end, which is found as a short.
    """
    faces = layout.face.reshape(layout.series, layout.parallel, 2)
    if layout.cell.diameter_mm is None:
        return np.asarray((one % 2 == 0) & (two % 2 == 1))
    counts = np.stack([(faces[:, :, 0] == face).sum(axis=1) for face in range(len(FACE_NAMES))])
    meant = counts.argmax(axis=0)
    group = layout.group[one // 2]
    return np.asarray(layout.face[one] == meant[group])


def _shared_out(layout: Layout, one: Index, two: Index, wanted: int, discrete: bool) -> Array:
    """Strips on each place of a joint's front, ``wanted`` in all, spread over it evenly.

    A front of nested rows has two places for each cell; straight ones come first. A bar or a
    sheet (not ``discrete``) covers the whole front. Between flat cells every place has them all.
    """
    count = len(one)
    if layout.cell.diameter_mm is None:
        return np.full(count, float(wanted))
    if not discrete:
        return np.full(count, wanted / count)
    apart = np.linalg.norm(layout.terminal_mm[one] - layout.terminal_mm[two], axis=1)
    # One strip a cell before any cell has two.
    first = np.zeros(count, dtype=bool)
    used: set[int] = set()
    for place in np.argsort(np.round(apart, 3), kind="stable"):
        ends = {int(one[place]), int(two[place])}
        if not ends & used:
            first[place] = True
            used |= ends
    rows = np.flatnonzero(first)
    strips = np.zeros(count)
    whole, rest = divmod(wanted, len(rows))
    strips[rows] = whole
    if rest:
        spread = rows[((np.arange(rest) + 0.5) * len(rows) / rest).astype(np.intp)]
        strips[spread] += 1.0
    return strips


def _wire_across(
    layout: Layout,
    plan: Plan,
    joined: Mask,
    levels: Index,
    found: list[Run],
) -> None:
    """Wires where two neighbours in series have no front: between layers, blocks, or far apart.

    Or strips folded over an edge of the pack.
    """
    for level in range(1, layout.series):
        if joined[level]:
            continue
        ends = np.flatnonzero(levels == level)
        one, two = ends[ends % 2 == 0], ends[ends % 2 == 1]
        apart = np.linalg.norm(
            layout.terminal_mm[one][:, None] - layout.terminal_mm[two][None], axis=2
        )
        wires = (
            layout.parallel if plan.scheme != "groups" else min(plan.series_strips, layout.parallel)
        )
        if plan.folded:
            folded_one, folded_two = folded_pairs(layout, one, two, wires)
            if len(folded_one):
                wanted = layout.parallel if plan.scheme != "groups" else plan.series_strips
                each = np.full(len(folded_one), float(-(-wanted // len(folded_one))))
                flat = np.zeros(len(folded_one), dtype=bool)
                found.append((folded_one, folded_two, FOLD, each, flat))
                continue
        chosen_one, chosen_two = _nearest_pairs(apart, wires)
        found.append(
            (
                one[chosen_one],
                two[chosen_two],
                WIRE,
                np.ones(len(chosen_one)),
                np.zeros(len(chosen_one), dtype=bool),
            )
        )


def _nearest_pairs(apart: Array, count: int) -> tuple[Index, Index]:
    """Up to ``count`` pairs, shortest first, no place used twice."""
    rows: list[int] = []
    columns: list[int] = []
    for flat in np.argsort(apart, axis=None, kind="stable"):
        row, column = divmod(int(flat), apart.shape[1])
        if row not in rows and column not in columns:
            rows.append(row)
            columns.append(column)
            if len(rows) == count:
                break
    return np.array(rows, dtype=np.intp), np.array(columns, dtype=np.intp)


def _tie_loose(
    layout: Layout,
    within: Index,
    plan: Plan,
    found: list[Run],
) -> None:
    """Wires between the parts of a group that do not touch, on both of its levels."""
    if layout.parallel == 1:
        return
    part = components(len(layout), within[:, 0], within[:, 1])
    if len(distinct(part)) == layout.series:
        return
    one: list[int] = []
    two: list[int] = []
    for group in range(layout.series):
        cells = np.flatnonzero(layout.group == group)
        parts = distinct(part[cells])
        for last, following in pairwise(parts):
            left, right = cells[part[cells] == last], cells[part[cells] == following]
            for pole in (0, 1):
                apart = np.linalg.norm(
                    layout.terminal_mm[2 * left + pole][:, None]
                    - layout.terminal_mm[2 * right + pole][None],
                    axis=2,
                )
                row, column = divmod(int(apart.argmin()), apart.shape[1])
                if plan.scheme == "groups" or (group, pole) in (
                    (0, 1),
                    (layout.series - 1, 0),
                ):
                    one.append(2 * int(left[row]) + pole)
                    two.append(2 * int(right[column]) + pole)
    found.append(
        (
            np.array(one, dtype=np.intp),
            np.array(two, dtype=np.intp),
            WIRE,
            np.ones(len(one)),
            np.zeros(len(one), dtype=bool),
        )
    )


def _joined(layout: Layout, found: Sequence[Run]) -> Pieces:
    parts = [item for item in found if len(item[0])]
    one = np.concatenate([np.zeros(0, dtype=np.intp), *(item[0] for item in parts)])
    two = np.concatenate([np.zeros(0, dtype=np.intp), *(item[1] for item in parts)])
    kind = np.concatenate(
        [np.zeros(0, dtype=np.intp), *(np.full(len(item[0]), item[2]) for item in parts)]
    )
    strips = np.concatenate([np.zeros(0), *(item[3] for item in parts)])
    meshed = np.concatenate([np.zeros(0, dtype=bool), *(item[4] for item in parts)])
    a, b = np.minimum(one, two), np.maximum(one, two)
    return Pieces(
        layout,
        a,
        b=b,
        kind=kind,
        face=layout.face[a],
        length_mm=lengths_mm(layout, a, b, kind),
        strips=strips,
        layers=np.zeros(len(a), dtype=np.intp),
        meshed=meshed,
    )


def lengths_mm(layout: Layout, a: Index, b: Index, kind: Index) -> Array:
    """Length in mm of each piece, (M,): straight, but a wire has slack and both ends.

    What is folded goes over the edge.
    """
    straight = np.linalg.norm(layout.terminal_mm[a] - layout.terminal_mm[b], axis=1)
    wired = (kind == WIRE) | (kind == TIE) | (layout.face[a] != layout.face[b])
    length = np.maximum(np.where(wired, WIRE_SLACK * straight + WIRE_ENDS_MM, straight), 1.0)
    for piece in np.flatnonzero(kind == FOLD).tolist():
        made = fold_between(layout, int(a[piece]), int(b[piece]))
        if made is not None:
            length[piece] = made.length_mm
    return np.asarray(length)


def _changed(made: Pieces, changes: Sequence[PieceChange]) -> Pieces:
    """The pieces with the builder's own changes: layers set, pieces left out, pieces added."""
    layout = made.layout
    number = {(int(a), int(b)): place for place, (a, b) in enumerate(zip(made.a, made.b))}  # noqa: B905
    layers = made.layers.copy()
    out = np.zeros(len(made), dtype=bool)
    added: list[tuple[int, int, int]] = []
    for change in changes:
        one, two = terminal_number(layout, change.a), terminal_number(layout, change.b)
        if one is None or two is None or one == two:
            continue
        key = (min(one, two), max(one, two))
        place = number.get(key)
        if place is None:
            if change.layers:
                added.append((*key, change.layers))
        else:
            layers[place] = change.layers
            out[place] = change.layers == 0
    kept = ~out
    one_new = np.array([item[0] for item in added], dtype=np.intp)
    two_new = np.array([item[1] for item in added], dtype=np.intp)
    count = len(added)
    # What ends in two planes is no strip laid flat: a wire, insulated between its ends.
    plane = planes_of(layout).plane
    kind_new = np.where(plane[one_new] == plane[two_new], ADDED, WIRE)
    return Pieces(
        layout,
        np.concatenate([made.a[kept], one_new]),
        b=np.concatenate([made.b[kept], two_new]),
        kind=np.concatenate([made.kind[kept], kind_new]),
        face=np.concatenate([made.face[kept], layout.face[one_new]]),
        length_mm=np.concatenate(
            [made.length_mm[kept], lengths_mm(layout, one_new, two_new, kind_new)]
        ),
        strips=np.concatenate([made.strips[kept], np.ones(count)]),
        layers=np.concatenate([layers[kept], np.array([item[2] for item in added], dtype=np.intp)]),
        meshed=np.concatenate([made.meshed[kept], np.zeros(count, dtype=bool)]),
    )
