"""Packs side by side as a whole: joined, shared, alone, and what each part of them carries."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

import numpy as np
from msgspec import Struct

from lumvak.core.beside.joining import JoinedSides, joined_on
from lumvak.core.beside.levelling import levelled
from lumvak.core.beside.sharing import SharedCourse, SharedLoad, shared
from lumvak.core.beside.side import PackSide, PartCarries, parts_carry, why_not
from lumvak.core.cells.cell_model import SPECIFIC_HEAT_J_PER_KG_K
from lumvak.core.document.afterwards.beside import By
from lumvak.core.said import Text

# A current that is none.
LITTLE_A = 1e-6


class Together(Struct, frozen=True, eq=False, dict=True):
    """Packs joined and run together; ``why_not`` says why they must not be, and then no more is.

    ``plugs`` are what flows as each after the first is plugged in: the second to the first, the
    next to those that are level by then; none where nothing can flow back.
    """

    sides: tuple[PackSide, ...]
    why_not: tuple[Text, ...]
    plugs: tuple[JoinedSides, ...] = ()
    course: SharedCourse | None = None
    carried: tuple[PartCarries, ...] = ()
    load: SharedLoad = SharedLoad()

    @property
    def joining(self) -> JoinedSides | None:
        """What flows when the second is joined to the first; ``None`` where nothing can."""
        return self.plugs[0] if self.plugs else None

    @property
    def is_safe(self) -> bool:
        """Whether every plug may go in as they stand."""
        return all(it.is_safe for it in self.plugs)

    @cached_property
    def alone(self) -> tuple[SharedCourse, ...]:
        """The course of each with the same load alone."""
        if self.course is None:
            return ()
        return tuple(shared([it], self.load) for it in self.sides)

    @property
    def hours_alone(self) -> tuple[float, ...]:
        """How long each would run the same load alone."""
        return tuple(it.hours for it in self.alone)

    @cached_property
    def rises_k(self) -> tuple[float, ...]:
        """By how much the cells of each warm over the run, if none of their heat leaves."""
        if self.course is None:
            return ()
        return tuple(rise_k(side, self.course, at) for at, side in enumerate(self.sides))

    @property
    def first_opens(self) -> tuple[str, float] | None:
        """Which opens first, and after how many seconds."""
        if self.course is None or not self.course.ended:
            return None
        place, seconds = self.course.ended[0]
        return self.sides[place].name, seconds


def rise_k(side: PackSide, course: SharedCourse, place: int) -> float:
    """I² R over the whole run ÷ (mass × heat of cells), in K: the most it comes to (methods 44)."""
    flows = course.amps[:, place]
    ohm = side.ohm * np.interp(course.charge[:, place], side.charge, side.shape)
    joule = float(np.trapezoid(flows**2 * ohm, course.seconds))
    return joule / (side.kilograms * SPECIFIC_HEAT_J_PER_KG_K)


def together(
    sides: Sequence[PackSide], load: SharedLoad, by: By = "direct", between_ohm: float = 0.0
) -> Together:
    """Packs joined as they stand, one after the other, and discharged together.

    With a switch they are brought level before it closes: nothing flows then, and they run from
    there.
    """
    packs = tuple(sides)
    refused = why_not(packs)
    if refused:
        return Together(packs, refused)
    if by == "switch":
        packs = levelled(packs)
    plugs = _plugs(packs, between_ohm) if by in ("direct", "switch") else ()
    course = shared(packs, load, by)
    return Together(
        packs,
        (),
        plugs=plugs,
        course=course,
        load=load,
        carried=tuple(_carried(packs, course, plugs if by == "direct" else ())),
    )


def _plugs(packs: tuple[PackSide, ...], between_ohm: float) -> tuple[JoinedSides, ...]:
    """What flows as each is plugged onto those before it, which are level by then."""
    return tuple(
        joined_on(levelled(packs[:place]), packs[place], between_ohm)
        for place in range(1, len(packs))
    )


def _carried(
    sides: tuple[PackSide, ...], course: SharedCourse, plugs: tuple[JoinedSides, ...]
) -> Iterator[PartCarries]:
    for plug in plugs:
        yield from plug.limits
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
