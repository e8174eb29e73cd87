"""Harnesses that explain readings: every single fault, pairs of them, orders that are mixed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.taps.faults import OPEN, Fault, Joints, Name, Singles, group_kinds
from lumvak.core.taps.narrow import may_be, may_lack
from lumvak.core.taps.pairs import lead_pairs, mixed_order
from lumvak.core.taps.readings import (
    JOINT,
    MAIN_MINUS,
    MAIN_PLUS,
    Case,
    HarnessesAsRead,
    across,
    counts,
    explains,
    lacks,
    log_share,
    log_share_lacking,
    reads_beyond,
    reads_near,
    wired,
)

Array = NDArray[np.float64]
# What is less likely than this share of the likeliest does not remain.
REMAINS = 0.002


class Hypothesis(Struct, frozen=True, eq=False):
    """A harness that explains the readings: what is wrong, where each lead sits, (n + 1,).

    ``lack`` is how many V groups are under what they should be, as (group from 1, V, within V).
    """

    name: Name
    faults: tuple[Fault, ...]
    joint: Joints
    lack: tuple[tuple[int, float, float], ...]
    log_weight: float
    probability: float = 0.0

    @property
    def leads(self) -> tuple[int, ...]:
        """Leads that it names, each once."""
        return tuple(dict.fromkeys(lead for fault in self.faults for lead in fault.leads))

    @property
    def groups(self) -> tuple[int, ...]:
        """Groups that it names, each once."""
        return tuple(dict.fromkeys(group for fault in self.faults for group in fault.groups))

    def level(self, case: Case) -> Array:
        """Volts of each joint in it, (n + 1,)."""
        found = case.level.copy()
        for group, volts, _ in self.lack:
            found[group:] -= volts
        return found

    def reads(self, case: Case, end: int) -> float:
        """Volts of a lead, a pole or a joint in it; NaN where the lead sits on nothing."""
        place = {MAIN_MINUS: 0, MAIN_PLUS: len(case.groups)}.get(end)
        if place is None:
            place = end - JOINT if end >= JOINT else int(self.joint[end])
        return float("nan") if place == OPEN else float(self.level(case)[place])


def by_one(case: Case, singles: Singles) -> Iterator[Hypothesis]:
    """Every single fault that explains the readings."""
    may = may_be(case, singles)
    thought = wired(case, singles.joint[may])
    fits = np.flatnonzero(explains(thought))
    # An open lead reads nothing beyond the pack; that it reads just as a joint near by is chance.
    never_open = reads_beyond(case) | reads_near(case)
    # But lead 0: open it reads 0 V, as a good one does.
    never_open[0] = bool(reads_beyond(case)[0])
    for at, of in zip(fits.tolist(), may[fits].tolist(), strict=True):
        fault = singles.faults[of]
        if (never_open & (singles.joint[of] == OPEN)).any():
            continue
        weight = float(singles.log_prior[of]) + log_share(case, thought, at)
        if np.isfinite(weight):
            yield Hypothesis(fault.name, (fault,), singles.joint[of], (), weight)
    order = mixed_order(case)
    if order is not None and len(fits) and order[1].tobytes() not in singles.places:
        # It may be that, where a lead that hangs on nothing only seems to read a joint.
        yield from _leads_alone(case, *order)
    right = wired(case, singles.joint[:1])
    for group in range(1, len(case.groups) + 1):
        yield from _lacking(
            case, right, at=0, faults=(), log_prior=0.0, joint=singles.joint[0], group=group
        )


def _lacking(
    case: Case,
    thought: HarnessesAsRead,
    at: int,
    faults: tuple[Fault, ...],
    log_prior: float,
    joint: Joints,
    group: int,
) -> Iterator[Hypothesis]:
    """A group that lacks volts, in a harness with ``faults``, by its kind."""
    count = counts(case, thought, group)[at]
    low, high, fits = lacks(thought.off[at], count, thought.within[at], thought.lost[at])
    if not fits:
        return
    kinds = group_kinds(
        float(case.groups[group - 1]), case.apart_v, across(case, group) is not None
    )
    for name, least, most, prior in kinds:
        one, other = max(float(low), least), min(float(high), most)
        if one > other or most <= least:
            continue
        weight = log_share_lacking(case, thought, at, ((group, least, most),))
        weight += float(np.log(prior / len(case.groups))) + log_prior
        if np.isfinite(weight):
            every = (*faults, Fault(name, groups=(group,)))
            yield Hypothesis(
                name if not faults else "two-faults",
                every,
                joint,
                ((group, (one + other) / 2.0, (other - one) / 2.0),),
                weight,
            )


def _leads_alone(
    case: Case, faults: tuple[Fault, ...], joint: Joints, prior: float
) -> Iterator[Hypothesis]:
    """A harness whose leads sit at ``joint`` (n + 1,), where it explains the readings."""
    thought = wired(case, joint[None])
    if bool(explains(thought)[0]):
        weight = prior + log_share(case, thought, 0)
        if np.isfinite(weight):
            name = "two-faults" if len(faults) > 1 else faults[0].name
            yield Hypothesis(name, faults, joint, (), weight)


def by_two(case: Case, singles: Singles) -> Iterator[Hypothesis]:
    """Pairs of faults that explain the readings: of leads, of a lead and a group, of groups."""
    never_open = reads_beyond(case)
    for faults, joint, prior in lead_pairs(case, singles):
        if not (never_open & (joint == OPEN)).any():
            yield from _leads_alone(case, faults, joint, prior)
    for group, may in may_lack(case, singles):
        thought = wired(case, singles.joint[may])
        count = counts(case, thought, group)
        _, _, fits = lacks(thought.off, count, thought.within, thought.lost)
        fits &= ~(never_open & (singles.joint[may] == OPEN)).any(axis=1)
        for at in np.flatnonzero(fits).tolist():
            if of := int(may[at]):
                yield from _lacking(
                    case,
                    thought,
                    at=at,
                    faults=(singles.faults[of],),
                    log_prior=float(singles.log_prior[of]),
                    joint=singles.joint[of],
                    group=group,
                )
    yield from _two_groups(case, singles)


def _two_groups(case: Case, singles: Singles) -> Iterator[Hypothesis]:
    right = singles.joint[0]
    thought = wired(case, right[None])
    if thought.lost.any():
        return
    off, within = thought.off[0], thought.within[0]
    kinds = [group_kinds(float(volts), case.apart_v) for volts in case.groups]
    for one in range(1, len(case.groups)):
        for other in range(one + 1, len(case.groups) + 1):
            first, second = (counts(case, thought, group)[0] for group in (one, other))
            none = (first == 0.0) & (second == 0.0)
            alone = (first != 0.0) & (second == 0.0)
            both = second != 0.0
            if (np.abs(off[none]) > within[none]).any() or not alone.any() or not both.any():
                continue
            low, high = _span(off, first, within, alone)
            # What the second lacks, whatever within these bounds the first does.
            rest, slack = off + (low + high) / 2.0 * first, abs(high - low) / 2.0
            least, most = _span(rest, second, within + slack * (first != 0.0), both)
            if low > high or least > most:
                continue
            for name, *bounds, often in kinds[one - 1]:
                for also, *limits, other_often in kinds[other - 1]:
                    if not _meet((low, high), bounds) or not _meet((least, most), limits):
                        continue
                    falls = ((one, bounds[0], bounds[1]), (other, limits[0], limits[1]))
                    weight = log_share_lacking(case, thought, 0, falls)
                    if np.isfinite(weight):
                        lack = _lack(one, low, high, *bounds)
                        more = _lack(other, least, most, *limits)
                        prior = often * other_often / len(case.groups) ** 2
                        yield Hypothesis(
                            "two-faults",
                            (Fault(name, groups=(one,)), Fault(also, groups=(other,))),
                            right,
                            (lack, more),
                            weight + float(np.log(prior)),
                        )


def _meet(one: Sequence[float], other: Sequence[float]) -> bool:
    """Whether two spans have anything in common."""
    return one[0] <= other[1] and other[0] <= one[1]


class _Lack(NamedTuple):
    """A group that lacks volts, how many, and give or take."""

    group: int
    volts: float
    off_v: float


def _lack(group: int, low: float, high: float, least: float, most: float) -> _Lack:
    """What a group lacks that reads ``low`` to ``high`` V, of a kind of ``least`` to ``most``."""
    low, high = (min(max(value, least), most) for value in (low, high))
    return _Lack(group, (low + high) / 2.0, (high - low) / 2.0)


def _span(off: Array, count: Array, within: Array, at: NDArray[np.bool_]) -> tuple[float, float]:
    lean = count[at] * off[at]
    return float((-within[at] - lean).max()), float((within[at] - lean).min())


def weighed(found: Sequence[Hypothesis]) -> list[Hypothesis]:
    """What remains, each with its probability, the likeliest first.

    A fault that was looked at in parts of what a group may lack is one.
    """
    found = _merged(found)
    weights = np.array([item.log_weight for item in found])
    shares = np.exp(weights - weights.max())
    kept = [(share, item) for share, item in zip(shares, found, strict=True) if share >= REMAINS]
    total = sum(share for share, _ in kept)
    ordered = sorted(kept, key=lambda pair: -pair[0])
    return [replace(item, probability=float(share / total)) for share, item in ordered]


def _merged(found: Sequence[Hypothesis]) -> list[Hypothesis]:
    """Hypotheses of the same faults as one, of the likelier part."""
    by_fault: dict[tuple[Fault, ...], Hypothesis] = {}
    for item in found:
        other = by_fault.get(item.faults)
        if other is None:
            by_fault[item.faults] = item
            continue
        likelier = max(item, other, key=lambda one: one.log_weight)
        both = float(np.logaddexp(item.log_weight, other.log_weight))
        by_fault[item.faults] = replace(likelier, log_weight=both)
    return list(by_fault.values())
