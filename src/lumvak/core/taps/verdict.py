"""What a set of readings says of a harness: what remains possible, whether it may be plugged in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from lumvak.core.taps.faults import (
    OPEN,
    WEAK_V,
    Fault,
    Joints,
    Name,
    Singles,
    group_kinds,
    singles_of,
)
from lumvak.core.taps.narrow import may_be, may_lack
from lumvak.core.taps.pairs import lead_pairs, mixed_order
from lumvak.core.taps.readings import (
    JOINT,
    MAIN_MINUS,
    MAIN_PLUS,
    Case,
    Wired,
    across,
    counts,
    explains,
    lacks,
    log_share,
    log_share_lacking,
    reads_beyond,
    reads_near,
    wired,
    zero_proven,
)

Array = NDArray[np.float64]
Leads = Literal["right", "wrong", "open-question"]
# What is less likely than this share of the likeliest does not remain.
REMAINS = 0.002
# Of readings that tell alike much, one that is so many times surer is asked for.
SURER = 1.2
# With so many remaining the further ones are not told apart by the next reading.
MOST_WEIGHED = 60


@dataclass(frozen=True, eq=False)
class Hypothesis:
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


@dataclass(frozen=True, slots=True)
class Next:
    """The reading that tells most of what remains apart: between which ends, and what it decides.

    ``expects`` is what each of those would read in V, NaN where the lead sits on nothing.
    """

    start: int
    end: int
    decides: tuple[Name, ...]
    expects: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class GroupTold:
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


@dataclass(frozen=True, eq=False)
class TapVerdict:
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

    Raises ValueError where there is not one total for each lead (methods 30).
    """
    count = len(case.groups)
    if len(case.totals) != count + 1:
        raise ValueError(f"{len(case.totals)} readings for {count + 1} leads")
    singles = singles_of(count)
    found = list(_single(case, singles))
    if not found:
        found = list(_double(case, singles))
    if not found:
        right = singles.joint[0]
        nothing = Hypothesis("unexplained", (Fault("unexplained"),), right, (), 0.0, 1.0)
        return TapVerdict((nothing,), "wrong", False, _first_misfit(case))
    remaining = _weighed(found)
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


def _single(case: Case, singles: Singles) -> Iterator[Hypothesis]:
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
        yield from _lacking(case, right, 0, (), 0.0, singles.joint[0], group)


def _lacking(
    case: Case, thought: Wired, at: int, faults: tuple[Fault, ...], log_prior: float,
    joint: Joints, group: int,
) -> Iterator[Hypothesis]:  # fmt: skip
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
                name if not faults else "two-faults", every, joint,
                ((group, (one + other) / 2.0, (other - one) / 2.0),), weight,
            )  # fmt: skip


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


def _double(case: Case, singles: Singles) -> Iterator[Hypothesis]:
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
                    case, thought, at, (singles.faults[of],), float(singles.log_prior[of]),
                    singles.joint[of], group,
                )  # fmt: skip
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
                            right, (lack, more), weight + float(np.log(prior)),
                        )  # fmt: skip


def _meet(one: Sequence[float], other: Sequence[float]) -> bool:
    """Whether two spans have anything in common."""
    return one[0] <= other[1] and other[0] <= one[1]


def _lack(
    group: int, low: float, high: float, least: float, most: float
) -> tuple[int, float, float]:  # fmt: skip
    """What a group lacks that reads ``low`` to ``high`` V, of a kind of ``least`` to ``most``."""
    low, high = (min(max(value, least), most) for value in (low, high))
    return group, (low + high) / 2.0, (high - low) / 2.0


def _span(off: Array, count: Array, within: Array, at: NDArray[np.bool_]) -> tuple[float, float]:
    lean = count[at] * off[at]
    return float((-within[at] - lean).max()), float((within[at] - lean).min())


def _weighed(found: Sequence[Hypothesis]) -> list[Hypothesis]:
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
            return Next(max(lead - 1, 0) if lead else MAIN_MINUS, lead, ("unexplained",),
                        (float("nan"),))  # fmt: skip
    return None
