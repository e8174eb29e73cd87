"""The order in which to join: groups first, series joints after, side by side; what to cover."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lumvak.core.cutlist import Cut
from lumvak.core.evaluate import Evaluation
from lumvak.core.layout import FACE_A, FACE_B, FACE_NAMES
from lumvak.core.units import say


@dataclass(frozen=True, slots=True)
class Step:
    """One step: what to do, how many pieces, what to cover, and the most volts within reach."""

    text: str
    pieces: int
    cover: str
    volts: float


def order_of(seen: Evaluation, cuts: Sequence[Cut]) -> tuple[Step, ...]:
    """The steps of joining the pack in hand, in order (methods 20)."""
    full = seen.choice.cell.voltage_full_v
    series = seen.choice.series
    steps = [
        Step(
            "Lay the cells as drawn and check every polarity with a meter",
            0,
            "nothing is joined yet; both sides are live at each cell",
            full,
        )
    ]
    faces = sorted({cut.face for cut in cuts})
    for face in faces:
        groups = [cut for cut in cuts if cut.face == face and cut.role == "group"]
        if groups:
            steps.append(
                Step(
                    f"{FACE_NAMES[face]}: the pieces within the groups, one group after the other",
                    sum(cut.count for cut in groups),
                    f"all of {_other(face)}, and every other group of this side",
                    full,
                )
            )
    done: set[int] = set()
    for face in faces:
        links = [cut for cut in cuts if cut.face == face and cut.role in ("series", "plate")]
        levels = sorted({cut.level for cut in links})
        if not levels:
            continue
        done |= set(levels)
        named = ", ".join(str(level) for level in levels)
        steps.append(
            Step(
                f"{FACE_NAMES[face]}: joint{'s' if len(levels) > 1 else ''} {named}, "
                "lowest number first",
                sum(cut.count for cut in links),
                f"all of {_other(face)}, and on this side all but the two groups of the joint",
                _longest_chain(done, series) * full,
            )
        )
    total = series * full
    steps.append(
        Step(
            "Balance leads, from 0 upwards, each checked against its running total",
            series + 1,
            "all but the joint in hand; strip one lead at a time",
            total,
        )
    )
    steps.append(
        Step(
            "Main leads: first the negative, covered; then the positive",
            len(seen.table.leads),
            f"everything; between the leads stand {say(total, 'V')}",
            total,
        )
    )
    return tuple(steps)


def _other(face: int) -> str:
    return {FACE_A: FACE_NAMES[FACE_B], FACE_B: FACE_NAMES[FACE_A]}.get(face, "the other ends")


def _longest_chain(joined: set[int], series: int) -> int:
    """Most groups in series once the joints in ``joined`` are made; level k joins k and k + 1."""
    longest = run = 1
    for level in range(1, series):
        run = run + 1 if level in joined else 1
        longest = max(longest, run)
    return longest
