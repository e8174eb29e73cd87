"""The order in which to join: groups first, series joints after, side by side; what to cover."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_NAMES
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.cut_list import Cut
from lumvak.core.said import Text, listed, phrase, say


class WorkStep(Struct, frozen=True):
    """One step: what to do, how many pieces, what to cover, and the most volts within reach.

    ``now`` and ``done`` are the pieces of the network laid in this step and before it, ``bare``
    the cells at work, ``face`` the side that is worked on, -1 for both.
    """

    text: Text
    count: int
    cover: Text
    volts: float
    face: int
    now: frozenset[int] = frozenset()
    done: frozenset[int] = frozenset()
    bare: frozenset[int] = frozenset()


def order_of(
    joined_pack: JoinedPack,
    cuts: Sequence[Cut],
    rings: int,
    crossings: int,
    barrier_mm: float | None,
) -> tuple[WorkStep, ...]:
    """The steps of joining the pack in hand, in order (methods 20).

    ``rings`` positive ends want an insulating ring; at ``crossings`` places a piece lies over metal
    of another potential, on a barrier of ``barrier_mm`` where there is one.

    It is long, for each step of the work is told in sentences.
    """
    layout = joined_pack.layout
    full, series = layout.cell.voltage_full_v, layout.series
    everything = frozenset(range(len(layout)))
    steps = [
        WorkStep(
            "Lay the cells as drawn and check every polarity with a meter",
            0,
            "every row but the one worked on; both ends of a cell are live",
            full,
            -1,
            bare=everything,
        )
    ]
    if rings:
        steps.append(
            WorkStep(
                "Stick an insulating ring on every positive end that a piece leaves over its rim",
                rings,
                "every row but the one worked on",
                full,
                -1,
                bare=everything,
            )
        )
    if crossings and barrier_mm is not None:
        steps.append(
            WorkStep(
                phrase(
                    "Lay the barrier of {} where pieces will cross others, and fix it",
                    say(barrier_mm, "mm"),
                ),
                crossings,
                "everything but the place worked on",
                full,
                -1,
                bare=everything,
            )
        )
    folded = sum(bool(cut.beyond) for cut in cuts)
    if folded:
        steps.append(
            WorkStep(
                "Lay a barrier over the edge wherever a strip will be folded over it, and fix it",
                folded,
                "every row but the one worked on",
                full,
                -1,
                bare=everything,
            )
        )
    bridges = sum(cut.size.role == "bridge" for cut in cuts)
    if bridges:
        steps.insert(
            0,
            WorkStep(
                "Off the pack: join a bridge over each window of the plates, on both sides of it, "
                "and file down what stands out below",
                bridges,
                "nothing is live yet",
                0.0,
                -1,
            ),
        )
    done: frozenset[int] = frozenset()
    faces = sorted({cut.face for cut in cuts})
    for face in faces:
        groups = [cut for cut in cuts if cut.face == face and cut.size.role == "group"]
        if not groups:
            continue
        now = frozenset(piece for cut in groups for piece in cut.pieces)
        first = _cells_of(joined_pack, groups[:1])
        text = phrase("{}: the pieces within the groups, one group after the other", _named(face))
        cover = phrase("{}, and here every group but the one worked on", _other(face))
        count = sum(cut.count for cut in groups)
        steps.append(
            WorkStep(
                text, count, cover=cover, volts=full, face=face, now=now, done=done, bare=first
            )
        )
        done |= now
    joined: set[int] = set()
    for face in faces:
        links = [cut for cut in cuts if cut.face == face and cut.size.role in ("series", "plate")]
        levels = sorted({cut.level for cut in links})
        if not levels:
            continue
        joined |= set(levels)
        now = frozenset(piece for cut in links for piece in cut.pieces)
        named = listed(levels)
        text = phrase(
            "{}: series connections {}, in this order"
            if len(levels) > 1
            else "{}: series connection {}, in this order",
            _named(face),
            named,
        )
        cover = phrase(
            "{}, and here all but the two groups of the connection worked on", _other(face)
        )
        count = sum(cut.count for cut in links)
        first = _cells_of(joined_pack, [cut for cut in links if cut.level == levels[0]])
        volts = _longest_chain(joined, series) * full
        steps.append(
            WorkStep(
                text, count, cover=cover, volts=volts, face=face, now=now, done=done, bare=first
            )
        )
        done |= now
    total = series * full
    steps.append(
        WorkStep(
            "Balance leads, from 0 upwards, each checked against its running total",
            series + 1,
            "all but the tap worked on; strip one lead at a time",
            total,
            -1,
            done=done,
            bare=frozenset(np.flatnonzero(layout.group == 0).tolist()),
        )
    )
    ends = np.flatnonzero((layout.group == 0) | (layout.group == series - 1))
    steps.append(
        WorkStep(
            "Main leads: first the negative, covered at once; then the positive",
            len(joined_pack.leads),
            phrase("all else; between the two leads stand {}", say(total, "V")),
            total,
            -1,
            done=done,
            bare=frozenset(ends.tolist()),
        )
    )
    return tuple(steps)


def _cells_of(joined_pack: JoinedPack, cuts: Sequence[Cut]) -> frozenset[int]:
    """All cells of the groups that some pieces touch."""
    layout = joined_pack.layout
    groups = {int(layout.group[terminal // 2]) for cut in cuts for terminal in cut.joins}
    return frozenset(np.flatnonzero(np.isin(layout.group, list(groups))).tolist())


def _named(face: int) -> str:
    return FACE_NAMES[face][0].upper() + FACE_NAMES[face][1:]


def _other(face: int) -> Text:
    opposite = {FACE_A: FACE_NAMES[FACE_B], FACE_B: FACE_NAMES[FACE_A]}
    return phrase("all of {}", opposite.get(face, "the other ends"))


def _longest_chain(joined: set[int], series: int) -> int:
    """Most groups in series once the joints in ``joined`` are made; level k joins k and k + 1."""
    longest = run = 1
    for level in range(1, series):
        run = run + 1 if level in joined else 1
        longest = max(longest, run)
    return longest
