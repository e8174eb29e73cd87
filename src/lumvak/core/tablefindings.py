"""What the pack on the table has to say: room, barriers, flaws of joints, shares of the cells."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import groupby
from typing import TYPE_CHECKING

import numpy as np

from lumvak.core.finding import Finding
from lumvak.core.outline import Flaw
from lumvak.core.sections import joining_of
from lumvak.core.units import say

if TYPE_CHECKING:
    from lumvak.core.evaluate import Evaluation

TOUCH_SAFE_V = 60.0
UNEVEN, VERY_UNEVEN = 0.10, 0.25
MOST_TOLD = 3
BARRIERS = ("one sheet of 0.2 mm insulating paper", "a stiff board of 0.5 mm or more")
JOINT_FLAWS = ("joint-shorts", "cell-unconnected", "lead-off-strip", "lead-nowhere", "pack-open")


def barrier_for(volts: float) -> str:
    """The barrier that two cans side by side need (methods 18)."""
    return BARRIERS[volts > TOUCH_SAFE_V]


def arrangement_findings(seen: Evaluation) -> Iterator[Finding]:
    """The room, the places of the cells and the barriers between them."""
    table, arrangement = seen.table, seen.project.arrangement
    placing = table.placing
    if placing.short:
        yield Finding(
            "does-not-fit",
            "stop",
            f"{seen.choice.series}S{seen.choice.parallel}P does not fit: {placing.short}",
            "The cells are drawn beside the room as they would lie without it.",
            "Make room, nest the rows, take another direction or fewer cells.",
            "arrangement",
            "layout.length_mm",
        )
    yield from _flaws(table.flaws, "arrangement", lambda code: code not in JOINT_FLAWS)
    if arrangement.way is not None and placing.chosen is not None and not placing.by_hand:
        known = {item.key for item in placing.proposals}
        if known and arrangement.way not in known:
            yield Finding(
                "way-gone",
                "note",
                "The proposal that was picked no longer exists",
                "Count, cell or room have changed since.",
                f"The best one is shown: {placing.chosen.name}.",
                "arrangement",
            )
    if len(table.barriers):
        worst = float(table.barrier_v.max())
        yield Finding(
            "barriers",
            "warn" if worst > TOUCH_SAFE_V else "note",
            f"{len(table.barriers)} pairs of cans side by side differ by more than "
            f"{say(arrangement.barrier_v, 'V')}, the worst by {say(worst, 'V')}",
            "Only two thin wrappers lie between them, and a wrapper is not insulation.",
            f"Set {barrier_for(worst)} between them, where the drawing shows it.",
            "arrangement",
            "layout.neighbour_v",
        )
    if arrangement.pitch_mm is None and seen.project.joints.gap_mm < 0.5:
        yield Finding(
            "no-gap",
            "note",
            "The cells lie wrapper on wrapper",
            "A worn wrapper then joins two cans, and no air passes.",
            "Use holders that leave a gap, or lay barriers between the groups.",
            "arrangement",
        )


def _flaws(flaws: tuple[Flaw, ...], stage: str, wanted: object) -> Iterator[Finding]:
    """Each kind of flaw as one finding: the first few by name, the rest by number."""
    own = [flaw for flaw in flaws if wanted(flaw.code)]  # type: ignore[operator]
    for code, found in groupby(sorted(own, key=lambda flaw: flaw.code), key=lambda flaw: flaw.code):
        items = list(found)
        named = "; ".join(flaw.text for flaw in items[1:MOST_TOLD])
        more = len(items) - MOST_TOLD
        why = f"Also: {named}" if named else "It is marked on the drawing"
        yield Finding(
            code,
            "stop",
            items[0].text,
            f"{why}{f', and {more} more' if more > 0 else ''}.",
            items[0].do,
            stage,
        )


def network_findings(seen: Evaluation) -> Iterator[Finding]:
    """Flaws of the joints, and what the solved currents show."""
    table, joints = seen.table, seen.project.joints
    yield from _flaws(table.flaws, "joints", lambda code: code in JOINT_FLAWS)
    if table.solved is None:
        yield Finding(
            "not-solved",
            "stop",
            "The currents are not worked out",
            "What is marked on the drawing has to be put right first.",
            "Until then the path counts with evenly shared currents.",
            "joints",
        )
    else:
        yield from _uneven(seen)
        yield from _hottest(seen)
    yield from _measured(seen)
    if joints.scheme != "groups" and seen.choice.parallel > 1:
        yield Finding(
            "strings",
            "warn",
            "Series strings: one board does not see every cell",
            "Tied only at their ends, a weak cell hides behind the others of its level."
            if joints.scheme == "strings-ends"
            else "Thin ties even out the levels slowly; a weak cell shows late.",
            "Give each string a board of its own, or join in parallel first.",
            "joints",
        )
    method = joining_of(joints, seen.choice.cell)
    if method == "solder" and seen.choice.cell.diameter_mm is not None:
        yield Finding(
            "solder-heat",
            "warn",
            "Soldering on a round cell puts heat into it",
            "The seal and the separator near the end suffer, and it does not show.",
            "Weld if you can; else a hot iron, two seconds, and let each cell cool.",
            "joints",
        )
    if joints.link_a is not None:
        limit = seen.figures["network.link_limit_a"] if table.solved is not None else None
        if limit is not None:
            yield Finding(
                "links-limit",
                "note",
                f"With links of {say(joints.link_a, 'A')} the pack may draw "
                f"{say(limit.number, 'A')}",
                "Links × rating, less what the busiest cell gets more than its share.",
                "A link that opens leaves the others with more: choose it with room.",
                "joints",
                limit.key,
            )


def _measured(seen: Evaluation) -> Iterator[Finding]:
    names = set(seen.table.layout.name)
    strange = [item.cell for item in seen.project.measured if item.cell not in names]
    if strange:
        yield Finding(
            "measured-nowhere",
            "note",
            f"{len(strange)} measured cells have no place in this pack",
            f"The first is {strange[0]}; the pack has {seen.choice.series} groups of "
            f"{seen.choice.parallel}.",
            "Correct the names, or set the count back.",
            "joints",
        )


def _uneven(seen: Evaluation) -> Iterator[Finding]:
    excess = seen.figures["network.cell_excess"]
    if excess.number < UNEVEN:
        return
    most, least = seen.figures["network.busiest_cell_a"], seen.figures["network.least_cell_a"]
    yield Finding(
        "cells-uneven",
        "warn" if excess.number > VERY_UNEVEN else "note",
        f"Cells near the take-off give {say(most.number, 'A')}, the far ones "
        f"{say(least.number, 'A')}",
        f"{most.rule.partition(',')[0]} works {say(excess.number, '%')} over its fair share; "
        "such cells warm and age first.",
        "Move the take-off, share it between several leads, or lay thicker strip at the ends.",
        "joints",
        excess.key,
    )


def _hottest(seen: Evaluation) -> Iterator[Finding]:
    """The hottest piece where it is over the rise allowed though the school in force lets it."""
    table, joints = seen.table, seen.project.joints
    assert table.carried is not None
    hot = seen.figures.get("network.hottest_k")
    if hot is None or joints.school == "temperature":
        return
    strips = ~table.sections.wire
    rises = np.where(strips, table.carried.rise_k, 0.0)
    worst = float(rises.max(initial=0.0))
    if math.isfinite(worst) and worst <= joints.rise_limit_k:
        return
    yield Finding(
        "piece-hot",
        "warn",
        f"The {table.pieces.name(int(rises.argmax()))} rises {say(worst, 'K')} over the cells",
        f"The {joints.school} school lets it; by temperature {say(joints.rise_limit_k, 'K')} "
        "would be the limit.",
        "Double that piece, or set wider strip.",
        "joints",
        hot.key,
    )
