"""Packs side by side as a whole: joined, shared, alone, and what each part of them carries."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.beside.joining import JoinedSides, joined
from lumvak.core.beside.sharing import SharedCourse, SharedLoad, shared
from lumvak.core.beside.side import PackSide, why_not
from lumvak.core.document.afterwards.beside import By
from lumvak.core.said import Text

# A current that is none.
LITTLE_A = 1e-6


class PartCarries(Struct, frozen=True):
    """A part of one of the packs over a run: the most it gives or takes, and what it may.

    ``when`` is ``joined``, ``giving`` or ``taking`` while all run, ``alone`` once another opened.
    """

    side: str
    what: Text
    when: str
    carries_a: float
    limit_a: float
    assumed: bool

    @property
    def holds(self) -> bool:
        """Whether it may carry that."""
        return self.carries_a <= self.limit_a * (1.0 + 1e-9)


class Together(Struct, frozen=True, eq=False):
    """Packs joined and run together; ``why_not`` says why they must not be, and then no more is."""

    sides: tuple[PackSide, ...]
    why_not: tuple[Text, ...]
    joining: JoinedSides | None = None
    course: SharedCourse | None = None
    hours_alone: tuple[float, ...] = ()
    carried: tuple[PartCarries, ...] = ()

    @property
    def first_opens(self) -> tuple[str, float] | None:
        """Which opens first, and after how many seconds."""
        if self.course is None or not self.course.ended:
            return None
        place, seconds = self.course.ended[0]
        return self.sides[place].name, seconds


def together(
    sides: Sequence[PackSide], load: SharedLoad, by: By = "direct", between_ohm: float = 0.0
) -> Together:
    """Packs joined as they stand and discharged together.

    With a switch they are level before it closes: they begin at the volts that both come to.
    """
    packs = tuple(sides)
    refused = why_not(packs)
    if refused:
        return Together(packs, refused)
    joining = joined(packs[0], packs[1], between_ohm) if by in ("direct", "switch") else None
    course = shared(packs, load, by)
    alone = tuple(shared([it], load).hours for it in packs)
    return Together(
        packs,
        (),
        joining=joining,
        course=course,
        hours_alone=alone,
        carried=tuple(_carried(packs, course, joining if by == "direct" else None)),
    )


def _carried(
    sides: tuple[PackSide, ...], course: SharedCourse, joining: JoinedSides | None
) -> Iterator[PartCarries]:
    if joining is not None:
        for it in joining.limits:
            yield PartCarries(it.side, it.what, "joined", it.carries_a, it.limit_a, it.assumed)
    first = course.ended[0][1] if course.ended else float(course.seconds[-1])
    until = int(np.searchsorted(course.seconds, first, side="left"))
    for place, side in enumerate(sides):
        flows = course.amps[: until + 1, place]
        later = course.amps[until + 1 :, place]
        for when, way, most in (
            ("giving", "gives_a", float(flows.max())),
            ("taking", "takes_a", float(-flows.min())),
            ("alone", "gives_a", float(later.max()) if len(later) else 0.0),
        ):
            if most <= LITTLE_A:
                continue
            for limit in side.limits:
                may = getattr(limit, way)
                if may is not None:
                    yield PartCarries(side.name, limit.what, when, most, may, limit.assumed)
