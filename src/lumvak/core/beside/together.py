"""Packs side by side as a whole: joined, shared, alone, and what each part of them carries."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

import numpy as np
from msgspec import Struct

from lumvak.core.beside.joining import JoinedSides, joined
from lumvak.core.beside.sharing import SharedCourse, SharedLoad, shared
from lumvak.core.beside.side import PackSide, PartCarries, parts_carry, why_not
from lumvak.core.document.afterwards.beside import By
from lumvak.core.said import Text

# A current that is none.
LITTLE_A = 1e-6


class Together(Struct, frozen=True, eq=False, dict=True):
    """Packs joined and run together; ``why_not`` says why they must not be, and then no more is."""

    sides: tuple[PackSide, ...]
    why_not: tuple[Text, ...]
    joining: JoinedSides | None = None
    course: SharedCourse | None = None
    carried: tuple[PartCarries, ...] = ()
    load: SharedLoad = SharedLoad()

    @cached_property
    def hours_alone(self) -> tuple[float, ...]:
        """How long each would run the same load alone."""
        if self.course is None:
            return ()
        return tuple(shared([it], self.load).hours for it in self.sides)

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

    With a switch nothing is judged of the joining, for they are level when it closes; they run from
    where they stand.
    """
    packs = tuple(sides)
    refused = why_not(packs)
    if refused:
        return Together(packs, refused)
    joining = joined(packs[0], packs[1], between_ohm) if by in ("direct", "switch") else None
    course = shared(packs, load, by)
    return Together(
        packs,
        (),
        joining=joining,
        course=course,
        load=load,
        carried=tuple(_carried(packs, course, joining if by == "direct" else None)),
    )


def _carried(
    sides: tuple[PackSide, ...], course: SharedCourse, joining: JoinedSides | None
) -> Iterator[PartCarries]:
    if joining is not None:
        yield from joining.limits
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
            if most > LITTLE_A:
                yield from parts_carry(side, most, way, when)
