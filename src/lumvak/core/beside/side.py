"""A pack as one of several in parallel: its curve, its resistance, and what its parts carry."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.behaviour import Behaviour, from_empty
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused

Array = NDArray[np.float64]
# Of a pack of which nobody knows more its cells take half of their charge an hour, and give twice
# that (ours, on the side of care).
TAKES_C, GIVES_C = 0.5, 1.0
# Cells of unknown mass hold so many Wh a kg (ours: heavy ones warm less).
USUAL_WH_PER_KG = 200.0
# A cell of which nobody said where it ends is empty here, by its family, in V.
EMPTY_V = {"cobalt": 3.0, "phosphate": 2.5, "titanate": 1.8, "sodium": 2.0}


class SideError(Refused):
    """Numbers that no pack has."""


class SideLimit(Struct, frozen=True):
    """A part of a pack, and how many amps it may give and take; ``None`` is no limit."""

    what: Text
    gives_a: float | None = None
    takes_a: float | None = None
    assumed: bool = False


class PartCarries(Struct, frozen=True):
    """A part of a pack beside another: the most it gives or takes, and what it may.

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


class PackSide(Struct, frozen=True, eq=False):
    """A pack as it stands beside another.

    ``charge`` (m,) rises from 0 to 1, ``rest_v`` (m,) are volts of the whole pack at rest,
    ``shape`` (m,) is its resistance over ``ohm``. ``fast_ohm`` is what counts in the first moment,
    ``at`` its state of charge, ``stop_v`` where it ends a discharge, ``floor`` the charge at which
    its weakest group is empty, ``mass_kg`` that of its cells where it is known. ``notes`` are what
    is to be known of the port it is joined by.
    """

    name: str
    series: int
    family: str
    charge: Array
    rest_v: Array
    shape: Array
    capacity_ah: float
    ohm: float
    fast_ohm: float
    stop_v: float
    at: float
    limits: tuple[SideLimit, ...] = ()
    floor: float = 0.0
    mass_kg: float | None = None
    notes: tuple[Text, ...] = ()

    @property
    def emf_v(self) -> float:
        """Volts at rest as it stands."""
        return float(np.interp(self.at, self.charge, self.rest_v))

    @property
    def kilograms(self) -> float:
        """Mass of its cells in kg; without one what is usual for its energy, on the light side."""
        if self.mass_kg is not None:
            return self.mass_kg
        middle = float(np.interp(0.5, self.charge, self.rest_v))
        return middle * self.capacity_ah / USUAL_WH_PER_KG

    def at_volts(self, volts: float) -> float:
        """The state of charge at which it rests at ``volts``, held to 0 to 1."""
        return float(np.interp(volts, self.rest_v, self.charge))

    def least_a(self, way: str) -> float:
        """What all of its parts may give (``gives_a``) or take (``takes_a``); infinite for none."""
        values = [getattr(it, way) for it in self.limits]
        return min((it for it in values if it is not None), default=math.inf)


def parts_carry(side: PackSide, amps: float, way: str, when: str) -> Iterator[PartCarries]:
    """Every part of a pack that has a limit in a ``way``, ``gives_a`` or ``takes_a``."""
    for it in side.limits:
        may = getattr(it, way)
        if may is not None:
            yield PartCarries(side.name, it.what, when, amps, may, it.assumed)


def from_numbers(
    name: str,
    series: int,
    capacity_ah: float,
    ohm: float,
    chemistry: Chemistry,
    at: float = 1.0,
) -> PackSide:
    """A pack of which a few numbers are known, ``at`` a state of charge; raises SideError.

    Its cells are taken to take and give what is usual, and its curve is that of its chemistry.
    """
    if not (0 < series <= 400 and 0.0 < capacity_ah <= 1e5 and 0.0 < ohm <= 1e3 and 0.0 <= at <= 1):
        raise SideError(
            phrase(
                "“{}” is no pack; accepted: 1 to 400 in series, over 0 Ah, over 0 ohm, 0 to 100 %",
                name[:40],
            )
        )
    empty = EMPTY_V[chemistry.family]
    charge, volts = from_empty(chemistry.curve, empty)
    cells = SideLimit("cells", GIVES_C * capacity_ah, takes_a=TAKES_C * capacity_ah, assumed=True)
    return PackSide(
        name,
        series,
        chemistry.family,
        charge=charge,
        rest_v=series * _rising(volts),
        shape=np.ones_like(charge),
        capacity_ah=capacity_ah,
        ohm=ohm,
        fast_ohm=ohm,
        stop_v=series * empty,
        at=at,
        limits=(cells,),
    )


def from_cells(
    name: str,
    cell: Cell,
    behaviour: Behaviour,
    family: str,
    series: int,
    parallel: int,
    capacity_ah: float,
    path_ohm: float,
    stop_v: float,
    at: float,
    limits: tuple[SideLimit, ...],
) -> PackSide:
    """A pack of known cells behind ``path_ohm``, ``at`` a state of charge.

    It ends at ``stop_v`` or where its cells are empty.
    """
    grid = np.unique(np.concatenate((behaviour.rest_charge, behaviour.shape_charge)))
    grid = grid[(grid >= 0.0) & (grid <= 1.0)]
    cells = series / parallel
    steady = path_ohm + cells * behaviour.steady_ohm
    shape = (path_ohm + cells * behaviour.steady_ohm * behaviour.charge_factor(grid)) / steady
    return PackSide(
        name,
        series,
        family,
        charge=grid,
        rest_v=series * _rising(behaviour.rest(grid)),
        shape=shape,
        capacity_ah=capacity_ah,
        ohm=steady,
        fast_ohm=path_ohm + cells * behaviour.fast_ohm,
        stop_v=max(stop_v, series * cell.voltage_empty_v),
        at=at,
        limits=limits,
    )


def _rising(volts: Array) -> Array:
    """Volts that rise by a hair at least, so that each has its charge."""
    return np.asarray(np.maximum.accumulate(volts) + 1e-9 * np.arange(len(volts)))


def standing_at(side: PackSide, at: float) -> PackSide:
    """The same pack ``at`` another state of charge."""
    return replace(side, at=min(max(at, 0.0), 1.0))


def with_weak_group(side: PackSide, share: float) -> PackSide:
    """The same pack with one group that holds but a ``share`` of the others: it ends the run."""
    return replace(side, floor=min(max(1.0 - share, side.floor), 1.0))


def why_not(sides: tuple[PackSide, ...]) -> tuple[Text, ...]:
    """Why packs must not be in parallel at all; empty where they may."""
    found: list[Text] = []
    first = sides[0]
    for other in sides[1:]:
        if other.series != first.series:
            found.append(
                phrase(
                    "{} has {} in series, {} has {}: one would charge the other without end",
                    *(first.name, first.series, other.name, other.series),
                )
            )
        if other.family != first.family:
            found.append(
                phrase(
                    "{} and {} are of different chemistry: their volts run differently",
                    *(first.name, other.name),
                )
            )
    return tuple(found)
