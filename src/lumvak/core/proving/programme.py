"""What is done in the tests that load a pack, and how built packs take it (methods 42)."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.proving.bench_pack import PARTS, BenchPack, as_designed
from lumvak.core.proving.groups_model import GroupsModel, Now

Array = NDArray[np.float64]
# Levels of the staircase, as shares of the continuous current.
LEVELS = (0.25, 0.5, 0.75, 1.0)
# So long each is held at most, and with so much of the charge for all of them.
HOLD_S, STAIRS_SHARE = 600.0, 0.35
# After a level the load is off for so long before the volts are read.
OFF_S = 10.0
# After the last level they are read twice more, so long apart.
EASES_S = 30.0
# The full charge is followed from this charge on in such steps, read so often, and given up once so
# many times the charge of the pack has flowed.
FROM, CHARGE_STEP_S, STEPS_A_CHARGE, READ_S, LONGEST_CHARGE = 0.7, 20.0, 400, 60.0, 1.0
# The over-current test goes so far, as a share of the level, each step held so much longer than it
# takes to open.
TRIP_TO, TRIP_TIMES, TRIP_MORE_S = 1.4, 1.2, 1.0
# Over-voltage is looked for with a supply so much over the cut-off of each group, at this share of
# the capacity as amps; under-voltage at that share of the load.
OVER_V, CREEP_SHARE, LATE_SHARE = 0.1, 0.05, 0.25
# A discharge goes in so many steps, and in finer ones once a limit may be met in so many of them or
# the lowest group has less charge than this.
STEPS_A_DISCHARGE, FINER, STEPS_AHEAD, LATE = 50, 5, 3.0, 0.12
STEPS_A_LEVEL = 12
# A pack may warm so many times as much as designed, and stays so many K under its limit.
WARMER, SPARE_K = 1.8, 2.0
# Which of the limits of a discharge are that of the whole pack, and that of the charge.
BY_PACK, BY_CHARGE = 1, 2
COOL_ROUNDS, LEAST_SHARE = 5, 0.1
# A discharge ends after so many times what is expected, if nothing else ends it.
LONGEST = 2.5


class Stairs(Struct, frozen=True, eq=False):
    """What a staircase reads: by level (n, L), the last of each level, and off for OFF_S after it.

    ``amps`` (L,) flowed; ``strip_k`` is over the cells, ``cells_k`` and ``leads_k`` over the air.
    ``eased_v`` (n, 3) are the volts after the last level: OFF_S after it, and EASES_S and twice
    that later.
    """

    amps: Array
    on_v: Array
    out_v: Array
    off_v: Array
    strip_k: Array
    cells_k: Array
    leads_k: Array
    eased_v: Array


class Emptied(Struct, frozen=True, eq=False):
    """What full discharges give, (n,): Ah, Wh, volts at the end, and the group that ended each.

    ``group`` counts from 0; it is −1 where the low-voltage cut-off of the equipment ended it.
    ``warm_k`` is by how much the cells lie over the air at the end, ``course_v`` (m, n) the output
    at ``course_s`` (m,), NaN once a pack has ended.
    """

    ah: Array
    wh: Array
    end_v: Array
    group: NDArray[np.intp]
    hours: Array
    warm_k: Array
    course_s: Array
    course_v: Array


def trip_hold_s(delay_s: float) -> float:
    """How long a step of the over-current test is held in s, for a level of a delay."""
    return TRIP_TIMES * delay_s + TRIP_MORE_S


def hold_s(pack: BenchPack) -> float:
    """How long each level of the staircase is held."""
    of_charge = STAIRS_SHARE * pack.group_ah * 3600.0 / (sum(LEVELS) * pack.load_a)
    return float(min(HOLD_S, of_charge))


def full_over(pack: BenchPack) -> float:
    """By how much of its charge a full charge ends over where it would if it crept to its end.

    The charge of the pack as designed is followed: constant current, then constant voltage, its
    current read every so often.
    """
    model = GroupsModel(pack, as_designed(pack))
    now = model.at_charge(np.full((1, pack.series), FROM))
    charged, amps = 0.0, np.array([-pack.charge_a])
    span = min(CHARGE_STEP_S, pack.group_ah / pack.charge_a * 3600.0 / STEPS_A_CHARGE)
    while -amps[0] >= pack.tail_a and charged < LONGEST_CHARGE * pack.group_ah:
        for _ in range(max(round(READ_S / span), 1)):
            amps = -model.fed_a(now, pack.full_v, pack.charge_a, span)
            now = model.after(now, amps, span)
            charged += abs(float(amps[0])) * span / 3600.0
    return float((now.groups.charge - model.full).mean()) + pack.full_over


def as_found(model: GroupsModel, mean: float) -> Array:
    """Charges of the groups (n, S) once all gave the same of full, down to a ``mean``."""
    full, share = model.full, 1.0 / model.packs.capacity
    given = (full.mean(axis=1) - mean) / share.mean(axis=1)
    return np.asarray(full - given[:, None] * share)


def stairs(model: GroupsModel) -> Stairs:
    """Walk up a staircase of loads from full."""
    pack = model.pack
    amps = np.array([share * pack.load_a for share in LEVELS])
    held = hold_s(pack)
    now, columns = model.at_charge(model.full), []
    for level in amps:
        flow = np.full(model.packs.many, level)
        for _ in range(STEPS_A_LEVEL):
            now = model.after(now, flow, held / STEPS_A_LEVEL)
        on = model.seen(now, flow)
        now = model.after(now, 0.0 * flow, OFF_S)
        off = model.seen(now, 0.0 * flow)
        columns.append(
            (
                on.pack_v,
                on.output_v,
                off.pack_v,
                on.strip_c - on.cells_c,
                on.cells_c - pack.ambient_c,
                on.leads_c - pack.ambient_c,
            )
        )
    eased = [columns[-1][2]]
    for _ in range(2):
        now = model.after(now, 0.0 * flow, EASES_S)
        eased.append(model.seen(now, 0.0 * flow).pack_v)
    read = [np.stack(column, axis=1) for column in (*zip(*columns, strict=True), eased)]
    return Stairs(amps, *read)


def weights_at_top(amps: Array) -> Array:
    """What each rise (L,) counts in the rise at the last of the currents (L,).

    It is that of a line against the square of the current, which has its own height at no current,
    the first: what two thermometers differ by drops out.
    """
    square = amps**2
    away = square - square.mean()
    return np.asarray(away / float(away @ away) * square[-1])


def at_top(amps: Array, rises: Array) -> Array:
    """Rises in K (n,) at the last level, from those at all (n, L) and none while cool."""
    return np.asarray(rises @ weights_at_top(np.concatenate(([0.0], amps)))[1:])


def eases_s(eased_v: Array) -> Array:
    """Time constant in s (n,) of volts (n, 3) that were read in equal spans after a load.

    What is still to come back falls by the same share in each span. NaN where it does not fall.
    """
    first, second = np.diff(eased_v, axis=1).T
    with np.errstate(divide="ignore", invalid="ignore"):
        span = EASES_S / np.log(first / second)
    return np.asarray(np.where((second > 0.0) & (first > second), span, np.nan))


def through_origin(amps: Array, volts: Array) -> Array:
    """Ohm (n,) by regression of drops (n, L) on currents (L,), through the origin."""
    return np.asarray(volts @ amps / float(amps @ amps))


def standard_error(amps: Array, volts: Array) -> float:
    """Standard error in ohm of a line through the origin, of drops (L,) on currents (L,)."""
    square = float(amps @ amps)
    rest = volts - float(volts @ amps) / square * amps
    return float(np.sqrt(rest @ rest / max(len(amps) - 1, 1) / square))


def cool_enough_a(pack: BenchPack) -> float:
    """The continuous current, or less where a full discharge would warm the cells to their limit.

    That of a pack as designed counts with a margin; it goes about with the square of the current,
    so that it is found in a few rounds.
    """
    model, amps = GroupsModel(pack, as_designed(pack)), pack.load_a
    allowed = (pack.limit_c - pack.ambient_c - SPARE_K) / WARMER
    for _ in range(COOL_ROUNDS):
        warm = float(emptied(model, amps).warm_k[0])
        if warm <= allowed:
            break
        amps *= max(allowed / warm, LEAST_SHARE) ** 0.5
    return amps


def emptied(model: GroupsModel, amps_a: float, start: Array | None = None) -> Emptied:
    """Discharge at a current from charges (n, S) until the first limit is met."""
    pack, count = model.pack, model.packs.many
    amps = np.full(count, amps_a)
    group_s = pack.group_ah / amps_a * 3600.0
    span = group_s / STEPS_A_DISCHARGE
    now = model.at_charge(model.full if start is None else start)
    floor = pack.floor_v + model.packs.under_v * pack.opens

    def limits(at: Now) -> tuple[Array, Array, NDArray[np.intp]]:
        """How far each pack is from its limits, (3, n), its volts, and its lowest group."""
        seen = model.seen(at, amps)
        over = seen.group_v - floor[:, None]
        away = (over.min(axis=1), seen.output_v - pack.stop_v, at.groups.charge.min(axis=1))
        return np.stack(away), seen.output_v, over.argmin(axis=1)

    margins, volts, _ = limits(now)
    course, times = [volts], [0.0]
    ah, wh, end_v = np.zeros(count), np.zeros(count), volts.copy()
    group, warm = np.full(count, -1), np.zeros(count)
    older, was = margins, margins
    running = margins.min(axis=0) > 0.0
    is_fine = False
    while running.any() and times[-1] < LONGEST * group_s:
        left = margins[:, running]
        ahead = left - STEPS_AHEAD * (was[:, running] - left)
        if not is_fine and (ahead.min() < 0.0 or left[BY_CHARGE].min() < LATE):
            is_fine, span = True, span / FINER
        now, before = model.after(now, amps, span), volts
        margins, volts, lowest = limits(now)
        course.append(np.where(running, volts, np.nan))
        times.append(times[-1] + span)
        crossed = np.where(margins <= 0.0, _crossing(older, was, margins), 1.0)
        ends = running & (margins.min(axis=0) <= 0.0)
        part = np.where(ends, crossed.min(axis=0), 1.0) * running
        last = before + part * (volts - before)
        ah += part * amps * span / 3600.0
        wh += part * amps * span / 3600.0 * (before + last) / 2.0
        end_v = np.where(running, last, end_v)
        risen = now.groups.celsius.max(axis=1) - pack.ambient_c
        warm = np.where(running, warm + part * (risen - warm), warm)
        group = np.where(ends & (crossed.argmin(axis=0) != BY_PACK), lowest, group)
        running &= ~ends
        older, was = was, margins
    return Emptied(
        ah,
        wh,
        end_v=end_v,
        group=group,
        hours=ah / amps_a,
        warm_k=warm,
        course_s=np.array(times),
        course_v=np.array(course),
    )


def _crossing(older: Array, was: Array, now: Array) -> Array:
    """Where in the last of two steps a margin comes to 0, on the parabola through its three."""
    bend, slope = 0.5 * (now - 2.0 * was + older), 0.5 * (now - older)
    root = np.sqrt(np.maximum(slope * slope - 4.0 * bend * was, 0.0))
    part = 2.0 * was / np.maximum(root - slope, 1e-12)
    return np.asarray(np.clip(part, 0.0, 1.0))


def part_ohm(model: GroupsModel, part: str) -> Array:
    """Resistance in ohm (n,) of a part of the path."""
    return model.parts_ohm[:, PARTS.index(part)]
