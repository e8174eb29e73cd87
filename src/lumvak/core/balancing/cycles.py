"""Groups over charge, rest and discharge, again and again, with what evens them out."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import Array, Groups, Sums
from lumvak.core.balancing.phase import Equipment, Phase, State, phase_run

LONGEST_H = 200.0
# A board that has cut off a charge comes back no sooner than this.
LEAST_OFF_S, MOST_TRIPS = 60.0, 200


class CycleSetting(Struct, frozen=True):
    """How a pack is used: charged with ``amps`` to ``hold_v``, until ``end_a`` or a group is over
    ``over_v``, left on the charger for ``stays_h``, emptied with ``load_a`` until a group is under
    ``floor_v``, left for ``between_h`` before it is charged again.

    ``back_v`` is where a board that cut off lets the charge go on, ``dead_v`` under what a group at
    rest is never charged.
    """

    amps: float
    hold_v: float
    end_a: float
    over_v: float | None
    back_v: float | None
    stays_h: float
    load_a: float
    floor_v: float
    between_h: float
    dead_v: float = 0.0


class Cycle(Struct, frozen=True, eq=False):
    """One charge and discharge: what it gave in Ah and Wh, how long the charge took.

    ``full`` and ``empty`` are the charges of groups (n,) at both ends, ``lamp`` when the charger's
    lamp turned; ``ended_by`` is what ended the charge, ``bleed_wh`` what was bled. ``start`` (n,)
    is what is in them before the next charge, ``flat`` are the groups, from 1, that were emptied
    by what they lose until then, which is a stop.
    """

    usable_ah: float
    charge_h: float
    lamp: Array
    full: Array
    empty: Array
    full_v: Array
    ended_by: str
    bleed_wh: float
    start: Array
    flat: tuple[int, ...] = ()

    @property
    def apart(self) -> float:
        """How far groups are apart at the top, as a share of their capacity."""
        return float(np.ptp(self.full))


def cycles(
    groups: Groups,
    share: Array,
    celsius: float,
    setting: CycleSetting,
    having: Equipment,
    count: int,
    report: Callable[[float], bool] | None = None,
) -> tuple[Cycle, ...]:
    """Run ``count`` cycles from where groups stand, ``share`` (n,); methods 35.

    ``report`` is told the share that is done and returns whether to go on; where not, the cycles so
    far are returned. They end where a group is empty before its next charge: it is not charged.

    Warmth is that of ``celsius`` throughout: bleeding is slow, and so is what is looked at here.
    """
    state = State(share.copy(), celsius, np.zeros(len(share), dtype=bool))
    having = replace(having, warmth=None)
    found = list[Cycle]()
    for place in range(count):
        if report is not None and not report(place / count):
            break
        state, cycle = _once(groups, state, setting, having)
        found.append(cycle)
        if cycle.flat:
            break
    return tuple(found)


class _Turn(NamedTuple):
    """Where a cycle ends, and what was given in it."""

    state: State
    cycle: Cycle


def _once(groups: Groups, state: State, setting: CycleSetting, having: Equipment) -> _Turn:
    begun = state.seconds
    charge = Phase(setting.amps, LONGEST_H * 3600.0, setting.hold_v, setting.end_a, setting.over_v)
    state, sums, why = phase_run(groups, state, charge, having)
    lamp, hours = state.charge, (state.seconds - begun) / 3600.0
    if setting.stays_h > 0.0:
        state, more = stays(groups, state, setting, having, why == "over")
        sums = sums + more
    full = state.charge
    rest_v = groups.rest(full)[0]
    out, given, _ = phase_run(
        groups, state, Phase(-setting.load_a, LONGEST_H * 3600.0, under_v=setting.floor_v), having
    )
    empty = out.charge
    if setting.between_h > 0.0:
        out, after, _ = phase_run(groups, out, Phase(0.0, setting.between_h * 3600.0), having)
        sums = sums + after
    cycle = Cycle(
        -given.ah,
        hours,
        lamp=lamp,
        full=full,
        empty=empty,
        full_v=rest_v,
        ended_by=why,
        bleed_wh=sums.bleed_wh + given.bleed_wh,
        start=out.charge,
        flat=_emptied(groups, out.charge, setting.dead_v),
    )
    return _Turn(out, cycle)


def _emptied(groups: Groups, charge: Array, dead_v: float) -> tuple[int, ...]:
    """Groups, from 1, that rest under ``dead_v``, and lose more by themselves than others."""
    under = (groups.rest(charge)[0] < dead_v) & (groups.leak_a > groups.leak_a.min())
    return tuple(int(place) + 1 for place in np.flatnonzero(under))


class Stay(NamedTuple):
    """Where a stay on the charger ends, and what flowed in it."""

    state: State
    sums: Sums


def stays(
    groups: Groups, state: State, setting: CycleSetting, having: Equipment, cut_off: bool
) -> Stay:
    """What happens on a charger that stays connected once its lamp has turned, for ``stays_h``.

    Where the board has ``cut_off`` the charge, it comes back once all groups are under ``back_v``,
    and cuts off again.
    """
    end, sums = state.seconds + setting.stays_h * 3600.0, Sums()
    for _ in range(MOST_TRIPS):
        left = end - state.seconds
        if left <= 1.0:
            break
        if cut_off:
            least = min(LEAST_OFF_S, left)
            state, flowed, _ = phase_run(groups, state, Phase(0.0, least, connected=True), having)
            sums = sums + flowed
            wait = Phase(0.0, left - least, released_v=setting.back_v, connected=True)
            state, flowed, why = phase_run(groups, state, wait, having)
        else:
            held = Phase(setting.amps, left, setting.hold_v, over_v=setting.over_v)
            state, flowed, why = phase_run(groups, state, held, having)
        sums = sums + flowed
        if why == "time":
            # To the end; or as far as groups that nobody means can be followed.
            break
        cut_off = why == "over"
    return Stay(state, sums)


# Groups within this share of a capacity count as even.
EVEN_SHARE = 0.02
# So many charges are followed one by one; those that are slower in looks of three.
STRAIGHT, A_LOOK = 16, 3
# Slower than this is never; a course is followed in so many looks.
MOST_CHARGES, MOST_LOOKS = 100.0, 40
# From one look to the next groups may come together by this share of what they are apart.
NEARER = 0.25
# Of charges that a board ends no more are skipped at once.
AT_CUT = 5.0
# What was skipped is taken back where groups come together slower than this share of before.
SLOWER = 0.7
# Or where they are not where it led, by this share of what they are apart there.
ASTRAY = 0.25
# Where they come together slower than this share of their fastest, they as good as stay apart.
STALLED = 0.05
# Where they go apart in so many looks, each a quarter farther, they drift; where so many charges
# that were followed leave them even they stay so.
MOST_DRIFTS, MOST_INSIDE = 6, 24
# They drift where they go further apart by this share of a capacity in a charge.
DRIFT = 5e-5


class BalancingCourse(Struct, frozen=True):
    """Whether groups come together from charge to charge (methods 35).

    ``seen`` is how far they are apart, as a share of a capacity, after how many charges; the last
    is where they are even, or no longer come nearer. ``drifts`` is whether they go further apart,
    ``cut`` whether the board ends the charges, ``flat`` the first group that is emptied before a
    charge, ``bled_wh`` what is bled from one charge to the next, ``period_h`` how long that is.
    """

    seen: tuple[tuple[float, float], ...]
    drifts: bool
    cut: bool
    flat: int | None
    bled_wh: float
    period_h: float

    @property
    def begins(self) -> float:
        """How far they are apart at first."""
        return self.seen[0][1]

    @property
    def ends(self) -> float:
        """How far they are apart in the end."""
        return self.seen[-1][1]

    @property
    def level(self) -> float:
        """How near counts as even: within two hundredths, or all but a tenth of what is evened."""
        return max(EVEN_SHARE, self.ends + 0.1 * max(self.begins - self.ends, 0.0))

    @property
    def charges(self) -> float:
        """After how many charges they are as near as ``level``, and stay so."""
        for (was, before), (now, after) in reversed(list(itertools.pairwise(self.seen))):
            if before > self.level:
                part = (before - self.level) / (before - after) if after < before else 1.0
                return was + min(part, 1.0) * (now - was)
        return 0.0


class _Look(Struct, frozen=True, eq=False):
    """A few charges one after the other: cycles, and how far groups are apart in each.

    ``alike`` is whether all lose alike by themselves.
    """

    alike: bool
    ran: list[Cycle]
    ends: list[float]

    @property
    def pace(self) -> float:
        """By how much they come together in a charge, over the last few."""
        last = self.ends[-A_LOOK:]
        return (last[0] - last[-1]) / max(len(last) - 1, 1)

    @property
    def even(self) -> bool:
        """Whether they are even and stay so: neither of the last two charges took them apart.

        Where one loses more by itself than others it may only be on its way past them.
        """
        last = self.ends[-A_LOOK:]
        steps = [after - before for before, after in itertools.pairwise(last)]
        if len(last) < A_LOOK or last[-1] > EVEN_SHARE:
            return False
        return max(steps) <= DRIFT and (self.alike or min(steps) >= -DRIFT)

    @property
    def change(self) -> Array:
        """How what is in them before a charge changes in one, (n,)."""
        last = self.ran[-A_LOOK:]
        return (last[-1].start - last[0].start) / max(len(last) - 1, 1)


def _looked(
    groups: Groups,
    start: Array,
    celsius: float,
    setting: CycleSetting,
    having: Equipment,
    count: int,
) -> _Look:
    """``count`` charges from ``start`` (n,), or until they are even and stay so."""
    look = _Look(bool(np.ptp(groups.leak_a) == 0.0), [], [])
    for _ in range(count):
        look.ran.extend(cycles(groups, start, celsius, setting, having, 1))
        last = look.ran[-1]
        start = last.start
        look.ends.append(_apart(groups, last.full))
        if last.flat or look.even:
            break
    return look


def _apart(groups: Groups, share: Array) -> float:
    """How far rooms of groups at ``share`` (n,) are apart, over their mean size."""
    return float(np.ptp(groups.ah * (1.0 - share))) / float(groups.ah.mean())


def course_of(
    groups: Groups, share: Array, celsius: float, setting: CycleSetting, having: Equipment
) -> BalancingCourse:
    """Follow groups from ``share`` (n,) until they are even, or no longer come nearer.

    Charges are run one by one; where that takes long a few are, and what changed in them goes on
    for as many as are skipped, at the pace between that before and that after (methods 35).
    """
    seen, start = [(0.0, _apart(groups, share))], share
    skipped, paced, kept = 0.0, 0.0, (share, share, 1)
    fastest, drifts, drifting, inside = 0.0, False, 0, 0
    for place in range(MOST_LOOKS):
        look = _looked(groups, start, celsius, setting, having, A_LOOK if place else STRAIGHT)
        cycle, pace = look.ran[-1], look.pace
        if skipped and not cycle.flat:
            before, change, length = kept
            led = seen[-1][1]
            off = abs(look.ends[0] - led + paced) > ASTRAY * max(led, EVEN_SHARE)
            if off or (pace < SLOWER * paced and paced > 0.0):
                # What was skipped did not go on as before: by half as many, or none.
                skipped = float(skipped // 2)
                start, seen = before + skipped * change, seen[:length]
                if skipped:
                    seen.append((seen[-1][0] + skipped, seen[-1][1] - skipped * paced))
                continue
            seen[-1] = (seen[-2][0] + skipped * _times(paced, pace), look.ends[0] + pace)
        count, skipped, paced, start = seen[-1][0], 0.0, pace, cycle.start
        seen += [(count + more, end) for more, end in enumerate(look.ends, 1)]
        count, apart = seen[-1]
        drifts = pace < -DRIFT and apart > EVEN_SHARE
        inside = inside + len(look.ends) if max(look.ends) <= EVEN_SHARE else 0
        drifting = drifting + 1 if drifts else 0
        if cycle.flat or look.even or inside >= MOST_INSIDE:
            break
        fastest = max(fastest, pace)
        if apart > EVEN_SHARE and (
            count > MOST_CHARGES
            or drifting >= MOST_DRIFTS
            or (not drifts and _stays(cycle, pace, apart, fastest))
        ):
            break
        skipped = _skipped(groups, look.ran[-2].full, cycle, pace, apart)
        if skipped:
            kept = (start, look.change, len(seen))
            start = np.clip(start + skipped * look.change, 0.0, 1.0)
            seen.append((count + skipped, apart - skipped * pace))
    return BalancingCourse(
        tuple(seen),
        drifts,
        cycle.ended_by == "over",
        cycle.flat[0] if cycle.flat else None,
        cycle.bleed_wh,
        cycle.charge_h + setting.stays_h + cycle.usable_ah / setting.load_a + setting.between_h,
    )


def _stays(cycle: Cycle, pace: float, apart: float, fastest: float) -> bool:
    """Whether groups as good as stay apart at a ``pace``."""
    if cycle.ended_by == "over":
        # Once the board no longer ends it sooner they come together faster.
        return pace * MOST_CHARGES < 0.1 * apart
    return pace < STALLED * fastest or pace * MOST_CHARGES < apart - EVEN_SHARE


def _times(before: float, after: float) -> float:
    """How many times as long a way takes whose pace goes from ``before`` to ``after``, with what is
    left, than one at the first.
    """
    change = before - after
    alike = before * after <= 0.0 or abs(change) < 1e-3 * abs(before)
    return 1.0 if alike else before * math.log(before / after) / change


def _skipped(groups: Groups, before: Array, cycle: Cycle, pace: float, apart: float) -> float:
    """How many charges are skipped, which are taken to go as the last did.

    No further than to where one group meets the next: from there on both are bled, or both fall
    behind. ``before`` (n,) is the full charge of the one before the last, ``cycle``.
    """
    level = groups.ah * (cycle.full - 1.0)
    change = level - groups.ah * (before - 1.0)
    gap, closing = level[:, None] - level, change - change[:, None]
    meets = (gap > 0.0) & (closing > 1e-4 * float(np.ptp(change)) + 1e-12)
    soonest = float((gap[meets] / closing[meets]).min()) if meets.any() else MOST_CHARGES
    near = (apart - EVEN_SHARE) / pace if pace > 0.0 else MOST_CHARGES
    by_share = NEARER * max(apart, EVEN_SHARE) / max(abs(pace), 1e-12)
    most = AT_CUT if cycle.ended_by == "over" else MOST_CHARGES
    return float(np.floor(max(min(soonest, near, by_share, most), 0.0)))
