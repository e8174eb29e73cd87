"""Which harnesses may explain readings at all, by their totals alone: the many that cannot go."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from lumvak.core.taps.faults import REVERSED_TIMES, Singles
from lumvak.core.taps.readings import Case

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Flags = NDArray[np.bool_]


def may_be(case: Case, singles: Singles) -> Index:
    """Of single faults those that put each lead where its total may be that of the joint, (k,)."""
    return _where_all(singles, case.at_joint, np.arange(len(singles.joint)))


def may_lack(case: Case, singles: Singles) -> Iterator[tuple[int, Index]]:
    """Groups from 1, and of single faults those that totals allow where it lacks volts, (k,).

    Most harnesses move two leads at the most. Where others than these cannot be right, or any two
    do not lack alike, such a harness does not serve, and is not looked at.
    """
    off = case.totals[:, None] - case.level
    within = case.meter.within(case.totals)[:, None] + case.astray(np.arange(len(case.level)))
    low, high = -within - off, within - off
    leads = np.arange(len(case.totals))
    for group in range(1, len(case.groups) + 1):
        most = REVERSED_TIMES * float(case.groups[group - 1])
        fits = np.where(leads < group, case.at_joint, (low <= most) & (high >= 0.0))
        own = fits[leads, leads]
        may = _moving(singles, np.flatnonzero(~own))
        lacking = np.flatnonzero(own & (leads >= group))
        if len(lacking):
            one = lacking[low[lacking, lacking].argmax()]
            other = lacking[high[lacking, lacking].argmin()]
            if low[one, one] > high[other, other]:
                may &= singles.far | singles.moves[:, one] | singles.moves[:, other]
        yield group, _where_all(singles, fits, np.flatnonzero(may))


def alike(singles: Singles, joint: NDArray[np.int16], wild: Flags) -> Index:
    """Single faults whose leads sit at ``joint`` (n + 1,), but for ``wild`` ones (n + 1,): (k,)."""
    if not wild.any():
        return np.array(singles.places.get(joint.tobytes(), ()), dtype=np.intp)
    may = np.flatnonzero(_moving(singles, np.flatnonzero(~wild & (joint != singles.joint[0]))))
    return np.asarray(may[((singles.joint[may] == joint) | wild).all(axis=1)])


def _moving(singles: Singles, leads: Index) -> Flags:
    """Single faults that move all of some leads, or many anyway."""
    return np.asarray(singles.far | singles.moves[:, leads].all(axis=1))


def _where_all(singles: Singles, fits: Flags, may: Index) -> Index:
    """Of those that may be, the ones all of whose leads fit the joint they sit on, or none."""
    or_open = np.concatenate([fits, np.ones((len(fits), 1), dtype=bool)], axis=1)
    good = or_open[np.arange(len(fits)), singles.joint[may]].all(axis=1)
    return np.asarray(may[good])
