"""Causes ranked from a complaint and readings, the next reading, and whether it is enough."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.trouble.case import TroubleCase
from lumvak.core.trouble.causes import BY_NAME, Cause, Complaint
from lumvak.core.trouble.posterior import Posterior, after
from lumvak.core.trouble.proposing import LEAST_BITS, Proposed, proposals
from lumvak.core.trouble.readings import TroubleReading

# What is so likely that what to do is known.
ENOUGH = 0.93
MOST_RANKED = 12


class RankedCause(Struct, frozen=True):
    """A cause in a place, and how likely it is."""

    cause: Cause
    where: str
    share: float


class Diagnosis(Struct, frozen=True, eq=False):
    """Causes, the likeliest first; the next reading, ``None`` where none would tell more.

    ``enough`` is whether more readings would not change what is done.
    """

    posterior: Posterior
    ranked: tuple[RankedCause, ...]
    nexts: tuple[Proposed, ...]
    enough: bool

    @property
    def next(self) -> Proposed | None:
        """The reading that tells most for its effort."""
        return None if self.enough or not self.nexts else self.nexts[0]


def diagnosed(
    case: TroubleCase,
    complaint: Complaint,
    readings: Sequence[TroubleReading] = (),
    without: Collection[str] = (),
) -> Diagnosis:
    """Rank the causes of a complaint by the readings, and propose the next one."""
    now = after(case, complaint, readings)
    ranked = ranked_of(now)
    taken = {(it.place, it.state, it.amount) for it in readings if it.weight > 0.0}
    nexts = [it for it in proposals(now, without, taken) if it.bits >= LEAST_BITS]
    enough = ranked[0].share >= ENOUGH and ranked[0].cause.name != "something-else"
    return Diagnosis(now, ranked, tuple(nexts), enough or not nexts)


def ranked_of(now: Posterior) -> tuple[RankedCause, ...]:
    """The likeliest causes, each in its place."""
    made = []
    for at in np.argsort(now.share)[::-1][:MOST_RANKED]:
        cause = BY_NAME[now.rows.names[int(now.rows.cause[at])]]
        made.append(
            RankedCause(cause, place_of(cause, int(now.rows.where[at])), float(now.share[at]))
        )
    return tuple(made)


def place_of(cause: Cause, where: int) -> str:
    """The name of a place: group:3, joint:2, tap:0; the part where there is but one."""
    return f"{cause.where}:{where}" if cause.where else cause.name.partition("-")[0]
