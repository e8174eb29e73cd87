"""What a set of readings says of a harness: what remains possible, whether it may be plugged in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.said import phrase
from lumvak.core.spelling import Refused
from lumvak.core.taps.faults import WEAK_V, Fault, Name, singles_of
from lumvak.core.taps.hypotheses import Hypothesis, by_one, by_two, weighed
from lumvak.core.taps.readings import (
    JOINT,
    MAIN_MINUS,
    MAIN_PLUS,
    Case,
    across,
    zero_proven,
)

Array = NDArray[np.float64]
Leads = Literal["right", "wrong", "open-question"]
# Of readings that tell alike much, one that is so many times surer is asked for.
SURER = 1.2
# With so many remaining the further ones are not told apart by the next reading.
MOST_WEIGHED = 60


class Next(Struct, frozen=True):
    """The reading that tells most of what remains apart: between which ends, and what it decides.

    ``expects`` is what each of those would read in V, NaN where the lead sits on nothing.
    """

    start: int
    end: int
    decides: tuple[Name, ...]
    expects: tuple[float, ...]


class GroupTold(Struct, frozen=True):
    """A group from 1: what it lacks of what it should have by the readings, in V, and by how much
    one may lack and still not be told by them.
    """

    group: int
    lacks_v: float
    least_told_v: float

    @property
    def told(self) -> bool:
        """Whether the readings tell a weak group here."""
        return self.least_told_v <= WEAK_V


class TapVerdict(Struct, frozen=True, eq=False):
    """What remains, the likeliest first; of the leads and of the groups what that comes to.

    ``leads`` are right only where no other harness remains and lead 0 is proven; the plug may go in
    where they are, and no group is odd. ``next`` decides what is open, or tells a group.
    """

    hypotheses: tuple[Hypothesis, ...]
    leads: Leads
    safe: bool
    next: Next | None
    groups: tuple[GroupTold, ...] = ()

    @property
    def unproven(self) -> bool:
        """Whether nothing is wrong but that lead 0 is not proven."""
        alone = [item.name for item in self.hypotheses] == ["right"]
        return alone and self.leads == "open-question"

    @property
    def explained(self) -> bool:
        """Whether anything explains the readings."""
        return bool(self.hypotheses) and self.hypotheses[0].name != "unexplained"


def judged(case: Case) -> TapVerdict:
    """Compare readings with every single fault, and with pairs where no single one explains them.

    Raises Refused where there is not one total for each lead (methods 30).
    """
    count = len(case.groups)
    if len(case.totals) != count + 1:
        raise Refused(phrase("{} readings for {} leads", len(case.totals), count + 1))
    singles = singles_of(count)
    found = list(by_one(case, singles))
    if not found:
        found = list(by_two(case, singles))
    if not found:
        right = singles.joint[0]
        nothing = Hypothesis("unexplained", (Fault("unexplained"),), right, (), 0.0, 1.0)
        return TapVerdict((nothing,), "wrong", False, _first_misfit(case))
    remaining = weighed(found)
    told = groups_told(case)
    right = [bool((item.joint == singles.joint[0]).all()) for item in remaining]
    leads: Leads = "wrong" if not any(right) else "right" if all(right) else "open-question"
    if leads == "right" and not zero_proven(case):
        leads = "open-question"
    safe = leads == "right" and [item.name for item in remaining] == ["right"]
    wanted = next_reading(case, remaining)
    if wanted is None and leads == "open-question":
        wanted = _from_zero(case)
    if wanted is None and safe:
        wanted = _across_next(case, told)
    return TapVerdict(tuple(remaining), leads, safe, wanted, told)


def groups_told(case: Case) -> tuple[GroupTold, ...]:
    """What the readings tell of each group, whatever the meter's fault is (methods 30).

    Across it directly, else as the difference of the totals at both its ends, each off by itself.
    """
    found = []
    within = case.meter.within(np.where(np.isnan(case.totals), 0.0, case.totals))
    for group in range(1, len(case.groups) + 1):
        read = across(case, group)
        if read is not None:
            off = float(case.meter.within(np.array([read]))[0])
        else:
            read = float(case.totals[group] - case.totals[group - 1])
            off = float(within[group] + within[group - 1])
        lacks_v = float(case.groups[group - 1]) - read
        found.append(GroupTold(group, lacks_v, off + case.apart_v))
    return tuple(found)


def _from_zero(case: Case) -> Next:
    """The reading that proves lead 0: to lead 1, where it would show nothing were it open."""
    return Next(0, 1, ("right", "open"), (float(case.groups[0]), float("nan")))


def _across_next(case: Case, told: Sequence[GroupTold]) -> Next | None:
    """The reading across the group of which least is told; ``None`` where all are."""
    untold = [item for item in told if not item.told and across(case, item.group) is None]
    if not untold:
        return None
    group = max(untold, key=lambda item: item.least_told_v).group
    volts = float(case.groups[group - 1])
    return Next(group - 1, group, ("right", "weak-group"), (volts, volts - WEAK_V))


def next_reading(case: Case, remaining: Sequence[Hypothesis]) -> Next | None:
    """The reading that tells the most of what remains apart; ``None`` where none tells anything.

    Of alike ones the surest is taken, and the first of those: neighbours before poles.
    """
    if len(remaining) < 2:
        return None
    weighed = remaining[:MOST_WEIGHED]
    last = len(case.groups)
    joints = [JOINT + joint for joint in range(last + 1)]
    places = [*range(last + 1), MAIN_MINUS, MAIN_PLUS, *joints]
    volts = np.array([[item.reads(case, end) for end in places] for item in weighed])
    share = np.array([item.probability for item in weighed])
    best: tuple[float, float] = (1e-9, 0.0)
    found = None
    for start, end in _candidates(last):
        one, other = places.index(start), places.index(end)
        reads = volts[:, other] - volts[:, one]
        told = _told_apart(reads, share, case)
        if start >= JOINT and found is not None and told[0] < best[0] + 0.05:
            # A probe on a joint is asked for only where no lead tells as much.
            continue
        # What tells more; of alike ones that which is surer.
        alike = found is not None and told[0] > best[0] - 1e-6 and told[1] > SURER * best[1]
        if told[0] > best[0] + 1e-6 or alike:
            best = told
            names = tuple(item.name for item in weighed)
            found = Next(start, end, names, tuple(float(value) for value in reads))
    return found


def _candidates(last: int) -> Iterator[tuple[int, int]]:
    for lead in range(last):
        yield lead, lead + 1
    for lead in range(last + 1):
        yield lead, MAIN_PLUS
    for lead in range(last + 1):
        yield MAIN_MINUS, lead
    for joint in range(last):
        yield JOINT + joint, JOINT + joint + 1


def _told_apart(reads: Array, share: Array, case: Case) -> tuple[float, float]:
    """How much less is open after a reading, in nats, and how far apart the nearest answers lie.

    Alike ones within the meter are one answer; how far is told in times what the meter tells.
    """
    order = np.argsort(np.where(np.isnan(reads), np.inf, reads))
    found: list[float] = []
    before, apart = float("nan"), np.inf
    for at in order.tolist():
        value = float(reads[at])
        if not found:
            near = False
        elif np.isnan(value) or np.isnan(before):
            near = bool(np.isnan(value) and np.isnan(before))
        else:
            told = 2.0 * float(case.meter.within(np.array([value]))[0]) + 2.0 * case.apart_v
            near = value - before <= told
            if not near:
                apart = min(apart, (value - before) / told)
        if near:
            found[-1] += float(share[at])
        else:
            found.append(float(share[at]))
        before = value
    parts = np.array(found)
    parts = parts[parts > 0.0] / parts.sum()
    return float(-(parts * np.log(parts)).sum()), apart if np.isfinite(apart) else 1.0


def _first_misfit(case: Case) -> Next | None:
    """Where nothing explains the readings: the lowest lead that reads what no joint has."""
    for lead, near in enumerate(case.at_joint):
        if not near.any():
            return Next(
                max(lead - 1, 0) if lead else MAIN_MINUS, lead, ("unexplained",), (float("nan"),)
            )
    return None
