"""An old pack and new cells, group to group: what each is, what flows when they are joined."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.hand import OldGroup, OldPack
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.matching.joining import STORAGE_CHARGE, Recipe, through_resistor
from lumvak.core.matching.matched import GroupNow, LotKind
from lumvak.core.matching.sharing_over_time import SharedDischarge, SharedSource

Array = NDArray[np.float64]
CURVE_POINTS = 401


class OldOrNew(Struct, frozen=True, eq=False):
    """One of the two: a kind of cell, how many are in parallel, and of each of n groups (n,).

    Volts are NaN where they were not read; ``measured`` is whether all else was.
    """

    kind: LotKind
    parallel: int
    ah: Array
    ohm: Array
    volts: Array
    measured: bool

    @property
    def charge_a(self) -> float:
        """What a group may be charged with, in A."""
        sheet = self.kind.cell
        return self.parallel * (sheet.charge_max_a or sheet.charge_standard_a)

    def source(self) -> SharedSource:
        """As a source under steady current: the time it takes is long over all time constants.

        Its curve runs smoothly through the points of the rest voltage: two in parallel follow each
        other's slope, and a corner would make their currents jump.
        """
        # Loaded where it is wanted: few packs have an old one beside them.
        from scipy.interpolate import PchipInterpolator

        behaviour = self.kind.behaviour
        charge = np.linspace(0.0, 1.0, CURVE_POINTS)
        volts = PchipInterpolator(behaviour.rest_charge, behaviour.rest_v)(charge)
        steady = 1.0 / behaviour.time_factor(10.0)
        return SharedSource(
            charge,
            np.asarray(volts),
            behaviour.charge_factor(charge),
            self.ah * behaviour.capacity_scale,
            self.ohm * steady,
        )


class Joining(Struct, frozen=True, eq=False):
    """Each pair of groups before it is joined: amps from the higher to the lower, and Ah, (n,).

    ``limit_a`` is what the lower takes; ``to_old`` says whether that is the old one.
    """

    volts: Array
    current_a: Array
    limit_a: Array
    flows_ah: Array
    together_v: Array
    to_old: NDArray[np.bool_]

    @property
    def worst(self) -> int:
        """The pair in which most flows against what is let."""
        over = np.where(np.isfinite(self.current_a), self.current_a / self.limit_a, -1.0)
        return int(np.argmax(over))

    @property
    def may_join(self) -> bool:
        """Whether no pair of which the voltages are known is over its limit."""
        return not bool((self.current_a > self.limit_a).any())


class GroupShares(NamedTuple):
    """Share of the current that each old group carries (n,): at first, least, most."""

    first: Array
    least: Array
    most: Array


class OldAndNew(Struct, frozen=True, eq=False):
    """A topic: an old pack beside the new cells; without an old pack nothing is said."""

    old: OldOrNew | None = None
    new: OldOrNew | None = None
    joining: Joining | None = None
    course: SharedDischarge | None = None
    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()

    @property
    def shares(self) -> GroupShares:
        """Share of the current that each old group carries: at first, least and most, (n,) each."""
        course = self.course
        assert course is not None
        every = course.one_a / course.current_a
        return GroupShares(every[0], every.min(axis=0), every.max(axis=0))


def old_of(wanted: OldPack, kind: LotKind) -> OldOrNew:
    """The old pack's groups; what was not measured is the sheet's.

    Where nobody said how many cells are in parallel, it is what their capacity says.
    """
    ah = _column(wanted.groups, "ah")
    known = ah[np.isfinite(ah)]
    rated = kind.cell.capacity_typical_ah
    mean = float(known.mean()) if len(known) else rated
    parallel = wanted.parallel or max(1, round(mean / rated))
    ohm = _column(wanted.groups, "mohm") * 1e-3
    sheet_ohm = kind.behaviour.ten_second_ohm / parallel
    measured = bool(np.isfinite(ah).all() and np.isfinite(ohm).all())
    return OldOrNew(
        kind,
        parallel,
        np.where(np.isfinite(ah), ah, parallel * rated),
        np.where(np.isfinite(ohm), ohm, sheet_ohm),
        _column(wanted.groups, "volts"),
        measured,
    )


def new_of(groups: Sequence[GroupNow], kind: LotKind, series: int, parallel: int) -> OldOrNew:
    """The new cells' groups; what was not measured is the sheet's."""
    ah = np.full(series, parallel * kind.cell.capacity_typical_ah)
    ohm = np.full(series, kind.behaviour.ten_second_ohm / parallel)
    volts = np.full(series, np.nan)
    for at, group in enumerate(groups):
        ah[at] = ah[at] if group.ah is None else group.ah
        ohm[at] = ohm[at] if group.siemens is None else 1.0 / group.siemens
        volts[at] = np.nan if group.volts is None else group.volts
    measured = bool(groups) and all(None not in (item.ah, item.siemens) for item in groups)
    return OldOrNew(kind, parallel, ah, ohm, volts, measured)


def _column(groups: Sequence[OldGroup], name: str) -> Array:
    found = [getattr(group, name) for group in groups]
    return np.array([np.nan if value is None else value for value in found], dtype=float)


def joined(old: OldOrNew, new: OldOrNew) -> Joining:
    """What would flow in each pair, and where it would come to rest."""
    apart = old.volts - new.volts
    current = np.abs(apart) / (old.ohm + new.ohm)
    limit = np.where(apart > 0.0, new.charge_a, old.charge_a)
    charge = [side.kind.behaviour.charge_at(side.volts) for side in (old, new)]
    ah = [side.ah * side.kind.behaviour.capacity_scale for side in (old, new)]
    held = ah[0] * charge[0] + ah[1] * charge[1]
    together = np.full_like(apart, np.nan)
    for at in np.flatnonzero(np.isfinite(apart)):
        volts = np.union1d(old.kind.behaviour.rest_v, new.kind.behaviour.rest_v)
        both = sum(
            float(ah[place][at]) * side.kind.behaviour.charge_at(volts)
            for place, side in enumerate((old, new))
        )
        together[at] = np.interp(held[at], both, volts)
    after = old.kind.behaviour.charge_at(together)
    flows = np.abs(ah[0] * (charge[0] - after))
    return Joining(np.abs(apart), current, limit, flows, together, apart < 0.0)


def recipe_of(beside: OldAndNew) -> Recipe | None:
    """How the worst pair is brought level; ``None`` where all may be joined as they are."""
    old, new, joining = beside.old, beside.new, beside.joining
    if old is None or new is None or joining is None or joining.may_join:
        return None
    at = joining.worst
    behaviour = new.kind.behaviour
    volts = np.array([old.volts[at], new.volts[at]])
    charge = behaviour.charge_at(volts)
    ohm, watts, hours = through_resistor(
        float(joining.volts[at]),
        float(old.ohm[at] + new.ohm[at]),
        np.array([old.ah[at], new.ah[at]]),
        float(abs(charge[0] - charge[1])),
        float(joining.limit_a[at]),
    )
    storage = float(behaviour.rest(np.array(STORAGE_CHARGE)))
    longest = max(
        abs(float(charge[place]) - STORAGE_CHARGE)
        * float(side.ah[at])
        / (side.parallel * side.kind.cell.charge_standard_a)
        for place, side in enumerate((old, new))
    )
    return Recipe(ohm, watts, hours, storage, longest)


def worn_limit_a(old: OldOrNew) -> float:
    """What an old cell carries continuously, in A: it warms no more than a new one at its most."""
    cell, sheet_ohm = old.kind.cell, old.kind.behaviour.ten_second_ohm
    worst = float((old.ohm * old.parallel).max())
    return cell.continuous_a * min(1.0, float(np.sqrt(sheet_ohm / worst)))


def apart_in_resistance(beside: OldAndNew) -> float:
    """The most that resistance times capacity of old and new differ, as a ratio over 1."""
    assert beside.old is not None and beside.new is not None
    ratio = beside.old.ohm * beside.old.ah / (beside.new.ohm * beside.new.ah)
    return float(np.maximum(ratio, 1.0 / ratio).max())
