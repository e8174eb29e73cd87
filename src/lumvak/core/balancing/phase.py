"""A phase of a pack's groups: charged, held, at rest or discharged until something ends it."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import (
    Active,
    Array,
    Bleed,
    BodyWarmth,
    Groups,
    Mask,
    Moment,
    StepPassed,
    Sums,
    moment,
    passed,
    sums_of,
    taper_of,
    warmed,
)

MOST_TRIES, MOST_STEPS = 40, 2_000
# What has come no farther than this share of its time by so many steps comes to nothing.
STALLED_STEPS, STALLED_SHARE = 400, 1e-4
# After so many steps a run is looked at half as closely, and again.
STEPS_A_ROUND = 250
# No step is cut shorter than this, in s.
LEAST_S = 1e-3
# Volts that are no further apart are the same.
SAME_V = 1e-9
# Into a group of fewer volts a mover puts no more amps than into one of these.
LEAST_FED_V = 0.5
# Of a current that is held under its most, changes under this share of that are small.
LEAST_SCALE = 0.01
# Once it has come to what it stays at steps of a course may be so many times as long.
SETTLED = 6.0


class Grain(Struct, frozen=True):
    """How finely a run is looked at.

    ``seconds`` is the most of a step, ``taper`` how far a current that is held may end from what
    it was taken to come to, as a share of it, ``bleed_s`` how late a bleed may begin or stop,
    ``near`` what is as good as at a limit, in V or of a current, ``drawn`` the most of a step in a
    taper, as a share of its time constant, for what is shown as a curve.
    """

    seconds: float = 60.0
    taper: float = 0.002
    bleed_s: float = 1.0
    near: float = 1e-6
    drawn: float = math.inf

    def coarser(self, times: float) -> Grain:
        """The same with steps that may be ``times`` as long; tapers from 64 times on."""
        taper = min(max(self.taper, 0.2), self.taper * max(times / 64.0, 1.0))
        return replace(
            self, seconds=self.seconds * times, bleed_s=self.bleed_s * times, taper=taper
        )


FINE, COARSE = Grain(drawn=0.1), Grain(1800.0, 0.03, 90.0, 2e-4, 0.4)
# For courses that are held against each other, moment by moment.
MIDDLE = Grain(240.0, 0.01, 20.0, 1e-5, 0.2)


class Phase(Struct, frozen=True):
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


class State(Struct):
    """Where groups stand: charges (n,), degC, which of them bleed (n,), and s since the start."""

    charge: Array
    celsius: float
    on: Mask
    seconds: float = 0.0


class Trace(Struct):
    """What was seen, moment by moment: lists of seconds, Ah since the phase began, moments."""

    seconds: list[float] = field(default_factory=list)
    ah: list[float] = field(default_factory=list)
    moments: list[Moment] = field(default_factory=list)


class Equipment(Struct, frozen=True):
    """What works on the groups: what bleeds, what moves charge, how the pack sheds heat."""

    bleed: Bleed | None = None
    active: Active | None = None
    warmth: BodyWarmth | None = None
    grain: Grain = FINE


class PhaseEnd(NamedTuple):
    """Where a phase ends, what flowed in it, and why it ended."""

    state: State
    sums: Sums
    why: str


def phase_run(
    groups: Groups, state: State, phase: Phase, having: Equipment, trace: Trace | None = None
) -> PhaseEnd:
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
            trace.ah.append(sums.ah)
            trace.moments.append(at)
        left = phase.longest_s - (state.seconds - begun)
        why = _ended(at, phase, having) or ("time" if left <= 1e-6 else "")
        if why:
            return PhaseEnd(state, sums, why)
        if count == STALLED_STEPS and state.seconds - begun < STALLED_SHARE * phase.longest_s:
            # Groups that nobody means toggle without an end.
            break
        step, then, flowed, celsius = _step(
            groups, at, min(_span(groups, at, phase, having), left), phase, having
        )
        sums = sums + flowed
        state = State(step.charge, celsius, at.on, state.seconds + step.seconds)
        at = _toggled(groups, state, phase, having, then)
        state.on = at.on
    return PhaseEnd(state, sums, "time")


class _Stepped(NamedTuple):
    """A step that was taken, the moment then, what flowed, and the warmth in degC."""

    step: StepPassed
    then: Moment
    flowed: Sums
    celsius: float


def _step(groups: Groups, at: Moment, span: float, phase: Phase, having: Equipment) -> _Stepped:
    """A step of ``span`` s at the most, the moment then, what flowed, and degC.

    It is cut at the first limit, or threshold, that it would pass, and where a current that is
    held does not come to what it was taken to. A limit is looked for between a step that is too
    short and one too long, on a straight line; an end that stays counts half as much each time.
    """
    grain, near = having.grain, having.grain.near
    ahead, waiting = _margins(at, phase, having)
    # Under the volts that are held the whole current flows: what is passed is found at once then.
    hold_v = None if phase.hold_v is not None and ahead[0] > near else phase.hold_v
    short_s, short, long_s, long = 0.0, ahead, span, list[float]()
    lean, was_short = 1.0, None
    for _ in range(MOST_TRIES):
        step = passed(groups, at, span, phase.amps, hold_v, having.bleed)
        flowed, celsius = None, at.celsius
        if having.warmth is not None:
            flowed = sums_of(groups, at, step)
            celsius = warmed(groups, at, step, flowed, having.warmth)
        then = moment(
            groups,
            step.charge,
            celsius=celsius,
            most_a=phase.amps,
            hold_v=phase.hold_v,
            on=at.on,
            bleed=having.bleed,
            moved_a=at.moved_a,
            guess_a=step.through,
        )
        if hold_v is not None and (shorter := _shorter(step.end_a, then.amps, phase, grain)) < 1.0:
            long_s, long = span, []
            span = short_s + (span - short_s) * shorter
            continue
        after, waits = _margins(then, phase, having)
        later = _later(span, waiting, waits, grain.bleed_s)
        if later < span - grain.bleed_s:
            long_s, long, span = later, [], later
            continue
        if any(now < -near and was > near for was, now in zip(ahead, after, strict=True)):
            lean = 2.0 * max(lean, 1.0) if was_short is False else 1.0
            long_s, long, was_short = span, after, False
        elif not long or _nearest(ahead, after, near) <= near:
            break
        else:
            lean = 0.5 * min(lean, 1.0) if was_short else 1.0
            short_s, short, was_short = span, after, True
        if long_s - short_s <= LEAST_S:
            break
        share = min(
            (
                was / (was - lean * now)
                for was, now in zip(short, long, strict=True)
                if now < -near < was < math.inf
            ),
            default=0.5,
        )
        span = short_s + (long_s - short_s) * min(max(share, 0.02), 0.98)
    return _Stepped(step, then, sums_of(groups, at, step) if flowed is None else flowed, celsius)


def _shorter(taken_a: float, came_a: float, phase: Phase, grain: Grain) -> float:
    """By what a step is shortened whose current ended at ``came_a`` and not at ``taken_a``."""
    least = grain.taper * max(came_a, LEAST_SCALE * phase.amps)
    off = abs(taken_a - came_a)
    return 1.0 if off <= least else max(0.7 * least / off, 0.1)


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
    at = moment(
        groups,
        state.charge,
        celsius=state.celsius,
        most_a=phase.amps,
        hold_v=phase.hold_v,
        on=on,
        bleed=having.bleed,
        moved_a=still,
    )
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
    return moment(
        groups,
        state.charge,
        celsius=state.celsius,
        most_a=phase.amps,
        hold_v=phase.hold_v,
        on=on,
        bleed=having.bleed,
        moved_a=moved,
    )


def _bleeding(bleed: Bleed, at: Moment, able: bool) -> Mask:
    """Which groups bleed at the volts of a moment."""
    if not able:
        return np.zeros(len(at.charge), dtype=bool)
    volts = _as_seen(at)
    # What comes to a threshold is past it: a step may end there to the last digit.
    on = (volts >= bleed.from_v - SAME_V) | (at.on & (volts > bleed.from_v - bleed.back_v + SAME_V))
    if bleed.spread_v is not None:
        over = volts - volts.min()
        on &= (over >= bleed.spread_v - SAME_V) | (at.on & (over > bleed.spread_v / 2.0 + SAME_V))
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
        moved[low] += given * float(volts[high] / max(float(volts[low]), LEAST_FED_V))
    elif active.way == "pack-low":
        moved -= active.amps * float(volts[low] / volts.sum()) / active.efficiency
        moved[low] += active.amps
    else:
        moved[high] -= active.amps
        moved += given * float(volts[high] / volts.sum())
    return moved


def _margins(at: Moment, phase: Phase, having: Equipment) -> tuple[list[float], Array | None]:
    """How far from each limit a moment is, and groups from where a bleed begins or stops.

    Those under 0 are past it.
    """
    found: list[float] = []
    if phase.hold_v is not None:
        # How far it is under the volts held, were the whole current to flow.
        held = phase.hold_v - at.alpha_v - at.beta_ohm * phase.amps
        found.append(held)
        if phase.end_a is not None:
            tapers = held <= having.grain.near
            found.append(math.log(max(at.amps, 1e-9) / phase.end_a) if tapers else math.inf)
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


def _whole_way(groups: Groups, at: Moment, phase: Phase, bleed: Bleed | None) -> float:
    """How long in s the same current flows where nothing bleeds: to an end of the curve, or until
    the first group is bled. What flows until then needs no steps.
    """
    amps = at.amps
    if amps < 0.0:
        return float((at.charge * groups.ah).min()) * 3600.0 / -amps
    if amps < phase.amps or amps == 0.0:
        return 0.0
    to: Array | float = 1.0
    if bleed is not None and phase.bleeds(bleed):
        to = np.minimum(groups.charge_at(bleed.from_v - at.own_ohm * amps), 1.0)
    return float(((to - at.charge) * groups.ah).min()) * 3600.0 / amps


def _span(groups: Groups, at: Moment, phase: Phase, having: Equipment) -> float:
    """How long a step may be in s."""
    if phase.amps == 0.0 and having.active is None and not at.on.any():
        # At rest volts only fall: nothing begins.
        return phase.longest_s
    span = having.grain.seconds
    drawn = having.grain.drawn
    if drawn == math.inf and having.active is None and having.warmth is None and not at.on.any():
        span = max(span, _whole_way(groups, at, phase, having.bleed))
    if phase.hold_v is not None and 0.0 < at.held_a < phase.amps:
        per_s, stays = taper_of(groups, at)
        if abs(at.held_a - stays) > LEAST_SCALE * phase.amps:
            span = min(span, drawn / per_s)
        elif drawn == math.inf:
            span *= SETTLED
    if having.active is not None and at.moved_a.any():
        # No longer than until the two that differ most have met by half.
        most = float((np.abs(at.moved_a) * at.per_as).max())
        apart = float(np.ptp(at.group_v))
        if most > 0.0:
            span = min(span, max(20.0, having.grain.bleed_s, 0.25 * apart / most))
    return max(span, 1.0)
