"""Causes ranked from a complaint and readings, the next reading, and whether it is enough."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.trouble.case import TroubleCase
from lumvak.core.trouble.causes import BY_NAME, TroubleCause
from lumvak.core.trouble.posterior import CausePosterior, along
from lumvak.core.trouble.proposing import LEAST_BITS, Proposed, proposals
from lumvak.core.trouble.readings import SWEEPS, TroubleReading

# What is so likely that what to do is known.
ENOUGH = 0.93
MOST_RANKED = 12
# A place is known where it has such a share of its cause; causes fainter than this are not told.
PLACED, FAINTEST = 0.6, 0.002


class RankedCause(Struct, frozen=True):
    """A cause in a place, and how likely it is."""

    cause: TroubleCause
    where: str
    share: float


class TrailStep(Struct, frozen=True, eq=False):
    """A reading, what was likeliest before it, and what it made of that."""

    reading: TroubleReading
    before: tuple[RankedCause, ...]
    after: tuple[RankedCause, ...]


class Diagnosis(Struct, frozen=True, eq=False):
    """Causes, the likeliest first; the next reading, ``None`` where none would tell more.

    ``enough`` is whether more readings would not change what is done; ``courses`` are what was
    known before anything was read and after each reading.
    """

    readings: tuple[TroubleReading, ...]
    courses: tuple[CausePosterior, ...]
    ranked: tuple[RankedCause, ...]
    nexts: tuple[Proposed, ...]
    enough: bool

    @property
    def next(self) -> Proposed | None:
        """The reading that tells most for its effort."""
        return None if self.enough or not self.nexts else self.nexts[0]

    @property
    def trail(self) -> tuple[TrailStep, ...]:
        """Every reading with the ranking before and after it."""
        ranks = [ranked_of(it)[:3] for it in self.courses]
        pairs = zip(self.readings, ranks, ranks[1:], strict=False)
        return tuple(TrailStep(reading, before, after) for reading, before, after in pairs)

    def speaks(self, cause: RankedCause) -> tuple[tuple[TroubleReading, float], ...]:
        """Each reading with how many times likelier it made a cause."""
        shares = [share_of(it, cause) for it in self.courses]
        return tuple(
            (reading, after / max(before, 1e-12))
            for reading, before, after in zip(self.readings, shares, shares[1:], strict=False)
        )


def diagnosed(
    case: TroubleCase,
    complaint: ComplaintName,
    readings: Sequence[TroubleReading] = (),
    without: Collection[str] = (),
) -> Diagnosis:
    """Rank the causes of a complaint by the readings, and propose the next one."""
    courses = tuple(along(case, complaint, readings))
    now = courses[-1]
    ranked = ranked_of(now)
    taken = {(it.place, it.state, it.amount) for it in readings if it.weight > 0.0}
    every = proposals(now, without, taken)
    nexts = [it for it in every if it.bits >= LEAST_BITS]
    # Of a pair both are to be known.
    sure = float(now.share.max()) >= ENOUGH
    enough = sure and ranked[0].cause.name != "something-else"
    if enough and ranked[0].cause.name == "sound":
        owed = [it for it in every if it.state == "rest" and it.place in _not_seen(readings)]
        nexts, enough = [*owed[:1], *nexts], not owed
    return Diagnosis(
        tuple(readings), courses, ranked, nexts=tuple(nexts), enough=enough or not nexts
    )


def _not_seen(readings: Sequence[TroubleReading]) -> list[str]:
    """What has to be read before a pack is called sound: its output, and its groups."""
    kinds = {it.kind for it in readings if it.weight > 0.0}
    output = [] if "terminals" in kinds else ["terminals"]
    return output if kinds & {"group", *SWEEPS} else [*output, *SWEEPS]


def share_of(now: CausePosterior, cause: RankedCause) -> float:
    """How likely a cause in its place is, by itself or beside another."""
    number = int(cause.where.partition(":")[2] or 0)
    return float(now.share[now.rows.at(cause.cause.name, number)].sum())


def ranked_of(now: CausePosterior) -> tuple[RankedCause, ...]:
    """The likeliest causes, each in its place, by itself or beside another."""
    rows = now.rows
    held: dict[tuple[int, int], float] = {}
    for causes, places in ((rows.cause, rows.where), (rows.second, rows.there)):
        for at in np.argsort(now.share)[::-1][: 4 * MOST_RANKED]:
            if causes[at] >= 0:
                key = int(causes[at]), int(places[at])
                held[key] = held.get(key, 0.0) + float(now.share[at])
    first = sorted(held, key=lambda it: -held[it])[:MOST_RANKED]
    made = []
    for number, place in first:
        cause = BY_NAME[rows.names[number]]
        made.append(RankedCause(cause, place_of(cause, place), held[number, place]))
    return tuple(made)


def place_of(cause: TroubleCause, where: int) -> str:
    """The name of a place: group:3, joint:2, tap:0; the part where there is but one."""
    return f"{cause.where}:{where}" if cause.where else cause.name.partition("-")[0]


def grouped(found: Diagnosis) -> tuple[RankedCause, ...]:
    """The likeliest causes, those of which the place is not known yet as one, without a place."""
    now = found.courses[-1]
    made = []
    for name in now.rows.names:
        whole = now.of(name)
        best = next((it for it in found.ranked if it.cause.name == name), None)
        if best is not None and best.share >= PLACED * whole:
            made.append(replace(best, share=whole))
        elif whole > FAINTEST:
            made.append(RankedCause(BY_NAME[name], BY_NAME[name].where, whole))
    return tuple(sorted(made, key=lambda it: -it.share))
