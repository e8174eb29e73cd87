"""A phase of a pack's groups: charged, held, at rest or discharged until something ends it."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace

import numpy as np

from lumvak.core.charging.groups_run import (
    Active,
    Array,
    Bleed,
    Groups,
    Mask,
    Moment,
    Sums,
    Warmth,
    moment,
    stepped,
    total,
)

MOST_TRIES, MOST_STEPS = 8, 2_000
# After so many steps a run is looked at half as closely, and again.
STEPS_A_ROUND = 250
# No step is cut shorter than this, in s.
LEAST_S = 1e-3
# Of a current that is held under its most, changes under this share of that are small.
LEAST_SCALE = 0.01


@dataclass(frozen=True, slots=True)
class Grain:
    """How finely a run is looked at.

    ``seconds`` is the most of a step, ``taper`` that as a share of the time constant of a taper,
    ``bleed_s`` how late a bleed may begin or stop, ``near`` what is as good as at a limit, in V or
    of a current.
    """

    seconds: float = 60.0
    taper: float = 1.0 / 40.0
    bleed_s: float = 1.0
    near: float = 1e-6

    def coarser(self, times: float) -> Grain:
        """The same with steps that may be ``times`` as long; tapers from 64 times on."""
        taper = min(max(self.taper, 0.5), self.taper * max(times / 64.0, 1.0))
        return replace(
            self, seconds=self.seconds * times, bleed_s=self.bleed_s * times, taper=taper
        )


FINE, COARSE = Grain(), Grain(1800.0, 1.0 / 4.0, 90.0, 2e-4)
# For courses that are held against each other, moment by moment.
MIDDLE = Grain(240.0, 1.0 / 12.0, 20.0, 1e-5)


@dataclass(frozen=True, slots=True)
class Phase:
    """What is done: ``amps`` into the pack (out where under 0), no more than ``hold_v`` at it.

    It ends at ``end_a`` once the volts are held, where a group is over ``over_v`` or under
    ``under_v``, over ``hot_c``, where all groups are under ``released_v`` or over ``above_v``, or
    after ``longest_s``. ``connected`` is whether the charger is, though nothing flows.
    """

    amps: float
    longest_s: float
    hold_v: float | None = None
    end_a: float | None = None
    over_v: float | None = None
    under_v: float | None = None
    hot_c: float | None = None
    released_v: float | None = None
    above_v: float | None = None
    connected: bool = False

    def bleeds(self, bleed: Bleed | None) -> bool:
        """Whether a bleed may work: while a charger is connected, or always."""
        return bleed is not None and (self.amps > 0.0 or self.connected or bleed.always)


@dataclass(slots=True)
class State:
    """Where groups stand: charges (n,), degC, which of them bleed (n,), and s since the start."""

    charge: Array
    celsius: float
    on: Mask
    seconds: float = 0.0


@dataclass(slots=True)
class Trace:
    """What was seen, moment by moment: lists of seconds and of moments."""

    seconds: list[float] = field(default_factory=list)
    moments: list[Moment] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Equipment:
    """What works on the groups: what bleeds, what moves charge, how the pack sheds heat."""

    bleed: Bleed | None = None
    active: Active | None = None
    warmth: Warmth | None = None
    grain: Grain = FINE


def phase_run(
    groups: Groups, state: State, phase: Phase, having: Equipment, trace: Trace | None = None
) -> tuple[State, Sums, str]:
    """Run a phase; where it ends, what flowed, and why it ended (methods 34).

    Reasons are ``end current``, ``over``, ``under``, ``hot``, ``released``, ``above``, ``time``. A
    step is cut where it would pass a limit, or the threshold of a bleed. The longer it goes on, the
    longer steps may be.
    """
    sums, begun = Sums(), state.seconds
    at = _now(groups, state, phase, having)
    state.on = at.on
    fine = having.grain
    for count in range(MOST_STEPS):
        if count and count % STEPS_A_ROUND == 0:
            having = replace(having, grain=fine.coarser(2.0 ** (count // STEPS_A_ROUND)))
        if trace is not None:
            trace.seconds.append(state.seconds)
            trace.moments.append(at)
        left = phase.longest_s - (state.seconds - begun)
        why = _ended(at, phase, having) or ("time" if left <= 1e-6 else "")
        if why:
            return state, sums, why
        span = min(_span(groups, at, phase, having), left)
        fresh, then, flowed = _step(groups, state, at, span, phase, having)
        sums = sums + flowed
        state, at = fresh, _toggled(groups, fresh, phase, having, then)
        state.on = at.on
    return state, sums, "time"


def _step(
    groups: Groups, state: State, at: Moment, span: float, phase: Phase, having: Equipment
) -> tuple[State, Moment, Sums]:
    """A step of ``span`` s at the most: cut at the first limit, or threshold, that it would pass.

    A limit is looked for between a step that is too short and one too long, on a straight line.
    """
    near = having.grain.near
    short_s, (short, waiting) = 0.0, _margins(groups, at, phase, having)
    long_s, long = span, list[float]()
    # Under the volts that are held the whole current flows: what is passed is found at once then.
    hold_v = None if phase.hold_v is not None and short[0] > near else phase.hold_v
    for _ in range(MOST_TRIES):
        fresh, then, flowed = _whole_step(groups, state, at, span, phase, hold_v, having)
        after, waits = _margins(groups, then, phase, having)
        if any(now < -near < was for was, now in zip(short, after, strict=True)):
            long_s, long = span, after
        elif not long or _nearest(short, after, near) <= near:
            break
        else:
            short_s, short = span, after
        if long_s - short_s <= LEAST_S:
            break
        shares = [was / (was - now) for was, now in zip(short, long, strict=True)
                  if now < -near < was < math.inf]  # fmt: skip
        share = min(max(min(shares, default=0.5), 0.02), 0.98)
        span = short_s + (long_s - short_s) * share
    later = _later(span, waiting, waits, having.grain.bleed_s)
    if later < span:
        fresh, then, flowed = _whole_step(groups, state, at, later, phase, hold_v, having)
    return fresh, then, flowed


def _whole_step(
    groups: Groups, state: State, at: Moment, span: float, phase: Phase, hold_v: float | None,
    having: Equipment,
) -> tuple[State, Moment, Sums]:  # fmt: skip
    """A step of ``span`` s, holding ``hold_v``."""
    charge, celsius, flowed = stepped(
        groups, at, span, phase.amps, hold_v, having.bleed, having.warmth
    )
    then = moment(groups, charge, celsius, phase.amps, phase.hold_v, at.on, having.bleed,
                  at.moved_a, at.amps - at.bleed_a + at.moved_a)  # fmt: skip
    return State(charge, celsius, at.on, state.seconds + span), then, flowed


def _nearest(short: list[float], after: list[float], near: float) -> float:
    """The least margin of limits that were still ahead."""
    return min((now for was, now in zip(short, after, strict=True) if was > near), default=0.0)


def _later(span: float, before: Array | None, after: Array | None, bleed_s: float) -> float:
    """How long a step may be in s, for groups that would begin to bleed within it."""
    if before is None or after is None or span <= bleed_s:
        return span
    passed = (after < 0.0) & (before > 0.0)
    if not passed.any():
        return span
    share = float((before[passed] / (before[passed] - after[passed])).min())
    return min(span, max(bleed_s, span * share))


def _now(groups: Groups, state: State, phase: Phase, having: Equipment) -> Moment:
    still = np.zeros(len(state.charge))
    on = state.on & phase.bleeds(having.bleed)
    at = moment(groups, state.charge, state.celsius, phase.amps, phase.hold_v, on, having.bleed,
                still)  # fmt: skip
    return _toggled(groups, State(state.charge, state.celsius, on), phase, having, at)


def _toggled(groups: Groups, state: State, phase: Phase, having: Equipment, at: Moment) -> Moment:
    """The moment once bleeds and movers have answered to the volts that they see."""
    on, moved = at.on, at.moved_a
    if having.bleed is not None:
        on = _bleeding(having.bleed, at, phase.bleeds(having.bleed))
    if having.active is not None:
        moved = _moving(having.active, at)
    if moved is at.moved_a and np.array_equal(on, at.on):
        return at
    return moment(groups, state.charge, state.celsius, phase.amps, phase.hold_v, on, having.bleed,
                  moved)  # fmt: skip


def _bleeding(bleed: Bleed, at: Moment, able: bool) -> Mask:
    """Which groups bleed at the volts of a moment."""
    if not able:
        return np.zeros(len(at.charge), dtype=bool)
    volts = _as_seen(at)
    on = (volts >= bleed.from_v - 1e-9) | (at.on & (volts >= bleed.from_v - bleed.back_v))
    if bleed.spread_v is not None:
        over = volts - volts.min()
        on &= (over > bleed.spread_v) | (at.on & (over > bleed.spread_v / 2.0))
    if bleed.most is not None and int(on.sum()) > bleed.most:
        order = np.argsort(np.where(on, -volts, np.inf), kind="stable")
        on = np.zeros(len(volts), dtype=bool)
        on[order[: bleed.most]] = True
    return on


def _as_seen(at: Moment) -> Array:
    """Volts of groups (n,) as a board reads them: while its bleeds pause."""
    return np.asarray(at.group_v + at.own_ohm * at.bleed_a)


def _moving(active: Active, at: Moment) -> Array:
    """What a mover puts into each group in A, under 0 where it takes."""
    volts = at.group_v
    high, low = int(volts.argmax()), int(volts.argmin())
    moved = np.zeros(len(volts))
    if volts[high] - volts[low] <= active.spread_v:
        return moved
    given = active.amps * active.efficiency
    if active.way == "high-low":
        moved[high] -= active.amps
        moved[low] += given * float(volts[high] / volts[low])
    elif active.way == "pack-low":
        moved -= active.amps * float(volts[low] / volts.sum()) / active.efficiency
        moved[low] += active.amps
    else:
        moved[high] -= active.amps
        moved += given * float(volts[high] / volts.sum())
    return moved


def _held(at: Moment, phase: Phase, groups: Groups) -> float:
    """How far the pack is under the volts held, in V, were the whole current to flow."""
    assert phase.hold_v is not None
    all_v = total(at.alpha_v) + (total(at.beta_ohm) + groups.path_ohm) * phase.amps
    return phase.hold_v - all_v


def _margins(
    groups: Groups, at: Moment, phase: Phase, having: Equipment
) -> tuple[list[float], Array | None]:
    """How far from each limit a moment is, and groups from where a bleed begins or stops.

    Those under 0 are past it.
    """
    found: list[float] = []
    if phase.hold_v is not None:
        held = _held(at, phase, groups)
        found.append(held)
        if phase.end_a is not None:
            found.append(at.amps / phase.end_a - 1.0 if held <= having.grain.near else math.inf)
    if phase.over_v is not None:
        found.append(phase.over_v - float(at.group_v.max()))
    if phase.under_v is not None:
        found.append(float(at.group_v.min()) - phase.under_v)
    if phase.released_v is not None:
        found.append(float(at.group_v.max()) - phase.released_v)
    if phase.above_v is not None:
        found.append(phase.above_v - float(at.group_v.min()))
    if phase.hot_c is not None:
        found.append(phase.hot_c - at.celsius)
    bleed = having.bleed
    if bleed is None or not phase.bleeds(bleed):
        return found, None
    volts = _as_seen(at)
    starts, stops = bleed.from_v - volts, volts - (bleed.from_v - bleed.back_v)
    if bleed.spread_v is not None:
        over = volts - volts.min()
        starts = np.maximum(starts, bleed.spread_v - over)
        stops = np.minimum(stops, over - bleed.spread_v / 2.0)
    return found, np.where(at.on, stops, starts)


def _ended(at: Moment, phase: Phase, having: Equipment) -> str:
    near = 1.01 * having.grain.near
    if phase.over_v is not None and float(at.group_v.max()) >= phase.over_v - near:
        return "over"
    if phase.under_v is not None and float(at.group_v.min()) <= phase.under_v + near:
        return "under"
    if phase.hot_c is not None and at.celsius >= phase.hot_c - 1e-6:
        return "hot"
    if phase.released_v is not None and float(at.group_v.max()) <= phase.released_v + near:
        return "released"
    if phase.above_v is not None and float(at.group_v.min()) >= phase.above_v - near:
        return "above"
    if phase.end_a is not None and phase.hold_v is not None:
        held = at.volts >= phase.hold_v - near
        if held and at.amps <= phase.end_a * (1.0 + near):
            return "end current"
    return ""


def _span(groups: Groups, at: Moment, phase: Phase, having: Equipment) -> float:
    """How long a step may be in s."""
    grain = having.grain
    if phase.amps == 0.0 and having.active is None and not at.on.any():
        # At rest volts only fall: nothing begins.
        return phase.longest_s
    span = grain.seconds
    if phase.hold_v is not None and 0.0 < at.amps < phase.amps:
        # By the pace at which the current changes; where it hardly does, a step may be long.
        rise = at.per_as * at.share
        ohm = total(at.beta_ohm) + groups.path_ohm
        pace = abs(total(rise * (at.amps - at.bleed_a + at.moved_a - groups.leak_a))) / ohm
        scale = max(at.amps, LEAST_SCALE * phase.amps)
        span = min(span, grain.taper * max(ohm / max(total(rise), 1e-12), scale / max(pace, 1e-12)))
    if having.active is not None and at.moved_a.any():
        # No longer than until the two that differ most have met by half.
        most = float((np.abs(at.moved_a) * at.per_as).max())
        apart = float(np.ptp(at.group_v))
        if most > 0.0:
            span = min(span, max(20.0, grain.bleed_s, 0.25 * apart / most))
    return max(span, 1.0)
