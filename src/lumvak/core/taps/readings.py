"""Readings of balance leads, and how well a harness that is thought of explains them."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.taps.faults import OPEN, Joints

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
# Ends of a reading that are no lead: the pack's own poles; and a joint itself, from here on.
MAIN_MINUS, MAIN_PLUS, JOINT = -1, -2, 1000
# A lead that sits on nothing reads nothing so often, else anything; so many V beyond the pack.
READS_NOTHING, BEYOND_V = 0.5, 2.0
# Gains of a meter that are tried between its bounds.
GAINS = 161
# Steps of what the first of two groups lacks.
STEPS = 12
# Less than this read from lead 0 upwards proves nothing.
LEAST_PROOF_V = 0.5


class TapMeter(Struct, frozen=True):
    """The builder's meter: within a share of the reading and so many digits of ``resolution_v``."""

    percent: float = 0.005
    digits: float = 2.0
    resolution_v: float = 0.01

    def digits_v(self) -> float:
        """What its digits are in V; what it shows is rounded besides."""
        return (self.digits + 0.5) * self.resolution_v

    def within(self, volts: Array) -> Array:
        """How far the truth may be from what it shows, in V, (n,)."""
        return np.asarray((self.percent * np.abs(volts) + self.digits_v()) / (1.0 - self.percent))


class Between(Struct, frozen=True):
    """A reading between two places: leads from 0, the pack's poles, joints from JOINT; in V."""

    start: int
    end: int
    volts: float


class Case(Struct, frozen=True, eq=False, dict=True):
    """What was read: ``groups`` as they should be in V, (n,); running totals, (n + 1,).

    A total is NaN where the lead read nothing. ``more`` are readings between leads. ``apart_v`` is
    how far a group may be from what is given for it. ``zero_is_main`` is whether there is no lead
    on the lowest joint: main minus is that.
    """

    groups: Array
    totals: Array
    meter: TapMeter = TapMeter()
    more: tuple[Between, ...] = ()
    apart_v: float = 0.0
    zero_is_main: bool = False

    @cached_property
    def level(self) -> Array:
        """Volts of each joint over the most negative one, (n + 1,)."""
        return np.concatenate([[0.0], np.cumsum(self.groups)])

    @cached_property
    def rows(self) -> Rows:
        """All readings alike: a total is one from the pack's negative pole."""
        last = len(self.groups)
        # Behind the leads stand all joints, of which the poles are the first and the last.
        poles = {MAIN_MINUS: last + 1, MAIN_PLUS: 2 * last + 1}
        poles |= {JOINT + joint: last + 1 + joint for joint in range(last + 1)}
        ends = [(MAIN_MINUS, lead, volts) for lead, volts in enumerate(self.totals.tolist())]
        ends += [(item.start, item.end, item.volts) for item in self.more]
        read = np.array([volts for _, _, volts in ends], dtype=float)
        one, other = (np.array([poles.get(end[at], end[at]) for end in ends]) for at in (0, 1))
        return Rows(read, one, other, np.arange(len(read)) <= last)

    def astray(self, spans: Array | NDArray[np.intp]) -> Array:
        """How far so many groups together may be from what is given for them, in V (any shape).

        They add up like steps of a drunkard, at most all one way.
        """
        return np.asarray(self.apart_v * np.minimum(spans, np.sqrt(3.0 * spans)))

    @cached_property
    def at_joint(self) -> Flags:
        """Which joints each total may be that of, whatever lead it was read on, (n + 1, n + 1)."""
        within = self.meter.within(self.totals)[:, None] + self.astray(np.arange(len(self.level)))
        return np.asarray(np.abs(self.totals[:, None] - self.level) <= within)


class Rows(Struct, frozen=True, eq=False):
    """Readings as arrays, (r,): volts, between which ends, and whether it is a running total."""

    read: Array
    start: NDArray[np.intp]
    end: NDArray[np.intp]
    total: Flags


class HarnessesAsRead(Struct, frozen=True, eq=False):
    """Harnesses that are thought of, m of them, as what they would read (m, r).

    ``within`` is how far each reading may be off by itself, ``fixed`` once the gain of the meter is
    known. ``free`` readings touch a lead that sits on nothing; ``lost`` are those that read nothing
    and should read something.
    """

    ends: NDArray[np.intp]
    starts: NDArray[np.intp]
    off: Array
    within: Array
    fixed: Array
    free: Flags
    lost: Flags


def wired(case: Case, joint: Joints) -> HarnessesAsRead:
    """What harnesses would read, whose leads sit at ``joint``, (m, n + 1)."""
    every = np.broadcast_to(np.arange(len(case.groups) + 1), joint.shape)
    places = np.concatenate([joint.astype(np.intp), every], axis=1)
    rows = case.rows
    starts, ends = places[:, rows.start], places[:, rows.end]
    free = (starts == OPEN) | (ends == OPEN)
    volts = case.level[ends] - case.level[starts]
    unread = np.isnan(rows.read)
    off = np.where(free | unread, 0.0, np.where(unread, 0.0, rows.read) - volts)
    # Groups between the joints that a reading is thought to touch may be off what is given.
    astray = case.astray(np.where(free, 0, np.abs(ends - starts)))
    within = np.where(unread, np.inf, case.meter.within(np.where(unread, 0.0, rows.read)) + astray)
    fixed = np.where(unread, np.inf, case.meter.digits_v() + astray)
    return HarnessesAsRead(
        ends,
        starts,
        off=off,
        within=within,
        fixed=np.where(rows.total, fixed, within),
        free=free,
        lost=unread & ~free,
    )


def zero_proven(case: Case) -> bool:
    """Whether anything tells that lead 0 sits on its joint: a volt or so read from it upwards.

    On a meter an open lead 0 reads 0 V from main minus, as a good one does.
    """
    return case.zero_is_main or any(
        abs(item.volts) > LEAST_PROOF_V
        and 0 in (item.start, item.end)
        and not {item.start, item.end} & {MAIN_MINUS, JOINT}
        for item in case.more
    )


def across(case: Case, group: int) -> float | None:
    """What was read across a group from 1, from lead to lead or joint to joint; the last, in V."""
    found = None
    for item in case.more:
        for base in (0, JOINT):
            ends = (base + group - 1, base + group)
            if (item.start, item.end) == ends:
                found = item.volts
            elif (item.end, item.start) == ends:
                found = -item.volts
    return found


def reads_near(case: Case) -> Flags:
    """Which leads read what their own joint or a neighbour of it has, (n + 1,)."""
    leads = np.arange(len(case.totals))
    return np.asarray((case.at_joint & (np.abs(leads[:, None] - leads) <= 1)).any(axis=1))


def reads_beyond(case: Case) -> Flags:
    """Which leads read what is nowhere in the pack, (n + 1,)."""
    return np.asarray((case.totals < -BEYOND_V) | (case.totals > case.level[-1] + BEYOND_V))


def explains(thought: HarnessesAsRead) -> Flags:
    """Which harnesses explain all readings within the meter, (m,)."""
    near = np.abs(thought.off) <= thought.within
    return np.asarray((near & ~thought.lost).all(axis=1))


def counts(case: Case, thought: HarnessesAsRead, group: int) -> Array:
    """How much of what a group lacks each reading lacks: 1, 0 or −1, (m, r); group from 1."""
    over = (thought.ends >= group).astype(float) - (thought.starts >= group)
    return np.where(thought.free | np.isnan(case.rows.read), 0.0, over)


def lacks(off: Array, count: Array, within: Array, lost: Flags) -> tuple[Array, Array, Flags]:
    """From and to how many V a group lacks so that it explains readings (m, r), and whether it can.

    ``count`` is how much of it each reading lacks; at least one must.
    """
    touched = count != 0.0
    near = np.abs(off) <= within
    low = np.where(touched, -within - count * off, -np.inf).max(axis=-1)
    high = np.where(touched, within - count * off, np.inf).min(axis=-1)
    fits = (near | touched).all(axis=-1) & ~lost.any(axis=-1) & touched.any(axis=-1)
    return low, high, np.asarray(fits & (low <= high))


def log_share(case: Case, thought: HarnessesAsRead, at: int) -> float:
    """How likely readings are of harness ``at``, as a log density, whatever the meter's fault is.

    Either all totals share one gain within its bounds and differ by digits alone, or each is off by
    itself; both count alike (methods 30).
    """
    rows = case.rows
    off, free = thought.off[at], thought.free[at]
    each = float(np.all(np.abs(off) <= thought.within[at]))
    volts = np.where(np.isnan(rows.read), 0.0, rows.read) - off
    gains = np.linspace(-case.meter.percent, case.meter.percent, GAINS)[:, None]
    left = off - gains * np.where(free, 0.0, volts)
    near = np.abs(np.where(rows.total, left, off)) <= thought.fixed[at]
    return _mixed(case, thought, at, float(np.mean(near.all(axis=1))), each)


def log_share_lacking(
    case: Case, thought: HarnessesAsRead, at: int, falls: tuple[tuple[int, float, float], ...]
) -> float:
    """As ``log_share`` where groups lack volts: (group, least, most) each, alike likely between.

    Two groups are followed by the readings between and beyond them.
    """
    rows = case.rows
    off, free = thought.off[at], thought.free[at]
    volts = np.where(np.isnan(rows.read), 0.0, rows.read) - off
    gains = np.linspace(-case.meter.percent, case.meter.percent, GAINS)[:, None]
    left = np.where(rows.total, off - gains * np.where(free, 0.0, volts), off)
    count = [counts(case, thought, group)[at] for group, _, _ in falls]
    ranges = [(least, most) for _, least, most in falls]
    shared = float(np.mean(_volume(left, count, thought.fixed[at], ranges)))
    each = float(_volume(off[None], count, thought.within[at], ranges)[0])
    return _mixed(case, thought, at, shared, each)


def _volume(
    off: Array, count: list[Array], within: Array, ranges: list[tuple[float, float]]
) -> Array:
    """The share of what groups may lack that explains readings, (k,) for ``off`` (k, r)."""
    untouched = np.all([item == 0.0 for item in count], axis=0)
    good = (np.abs(off[:, untouched]) <= within[untouched]).all(axis=1)
    if len(count) == 1:
        part = _part(off, count[0], within, *ranges[0])
        return np.where(good, part, 0.0)
    # Of what the first lacks, steps between the bounds of the readings that lack it alone.
    alone = (count[0] != 0.0) & (count[1] == 0.0)
    lean = count[0][alone] * off[:, alone]
    low = np.maximum((-within[alone] - lean).max(axis=1, initial=-np.inf), ranges[0][0])
    high = np.minimum((within[alone] - lean).min(axis=1, initial=np.inf), ranges[0][1])
    found = np.zeros(len(off))
    for share in (np.arange(STEPS) + 0.5) / STEPS:
        rest = off + (low + share * (high - low))[:, None] * count[0]
        found += _part(rest, count[1], within, *ranges[1])
    width = np.maximum(high - low, 0.0) / (ranges[0][1] - ranges[0][0])
    return np.where(good & (high >= low), width * found / STEPS, 0.0)


def _part(off: Array, count: Array, within: Array, least: float, most: float) -> Array:
    touched = count != 0.0
    if not touched.any():
        return np.ones(len(off))
    lean = count[touched] * off[:, touched]
    low = np.maximum((-within[touched] - lean).max(axis=1), least)
    high = np.minimum((within[touched] - lean).min(axis=1), most)
    return np.asarray(np.maximum(high - low, 0.0) / (most - least))


def _mixed(case: Case, thought: HarnessesAsRead, at: int, shared: float, each: float) -> float:
    rows, free = case.rows, thought.free[at]
    known = np.isfinite(rows.read) & ~free
    # What reads on a lead that sits on nothing may be anything.
    span = float(case.level[-1]) + 2.0 * BEYOND_V
    floats = free & rows.total
    silent = int((floats & np.isnan(rows.read)).sum())
    noisy = int((floats & np.isfinite(rows.read)).sum())
    loose = silent * np.log(READS_NOTHING) + noisy * np.log((1.0 - READS_NOTHING) / span)
    parts = [
        np.log(share) - float(np.log(2.0 * width[known]).sum())
        for share, width in ((shared, thought.fixed[at]), (each, thought.within[at]))
        if share > 0.0
    ]
    if not parts:
        return -np.inf
    return float(np.logaddexp.reduce(parts) - np.log(2.0) + loose)
