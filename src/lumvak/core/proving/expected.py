"""What every test should read on a sound pack, with its band, from drawn packs (methods 42)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.proving.bench_pack import PARTS, BenchPack, Built, built
from lumvak.core.proving.groups_model import GroupsModel
from lumvak.core.proving.programme import (
    EASES_S,
    Emptied,
    Stairs,
    as_found,
    at_top,
    eases_s,
    emptied,
    part_ohm,
    stairs,
    through_origin,
)

Array = NDArray[np.float64]
DRAWS, SEED = 500, 20
# What a meter at the bench is off by: shares of a reading, and what is added; standard deviations.
VOLT_SHARE, VOLT_V = 0.0003, 0.001
AMP_SHARE, AMP_A = 0.001, 0.003
KELVIN = 0.5
# What a BMS is off by where it tells of its groups, in V.
TOLD_V = 0.003
# A pack is found at about this charge.
AS_FOUND = 0.45
# What a clamp that holds a peak is off by.
CLAMP_SHARE = 0.03
# What a group loses is looked for at this charge.
KEPT_AT = 0.9
# Standard deviations from the middle beyond which 99 of 100 do not lie.
FAR = 2.576
INSIDE = (0.05, 0.95)
# What a case may show against the pack, and an output that sleeps, in V (ours).
CASE_V, LEAK_V = 0.05, 0.1
# A group that is kept loses so much of its charge a month, and a share of that more or less.
MONTH_SHARE, MONTH_SPREAD = 0.02, 0.5


class Expected(Struct, frozen=True):
    """What is expected: the middle, the band of nine in ten, and that of 99 in 100."""

    value: float
    low: float
    high: float
    far_low: float
    far_high: float

    def along(self, value: float) -> float:
        """Where a ``value`` lies on the band of 99 in 100, 0 to 1; where that has no end, of 90."""
        low = self.low if np.isinf(self.far_low) else self.far_low
        return (value - low) / max(self.far_high - low, 1e-12)

    def verdict(self, measured: float) -> Literal["inside", "outside"]:
        """Whether what was ``measured`` is outside: beyond what 99 of 100 sound packs show."""
        return "inside" if self.far_low <= measured <= self.far_high else "outside"


class Drawn(Struct, frozen=True, eq=False):
    """Drawn packs, how they take the tests that load them, and their hours at the load, (n,)."""

    packs: Built
    model: GroupsModel
    stairs: Stairs
    emptied: Emptied
    hours: Array


def drawn_packs(pack: BenchPack, count: int = DRAWS, seed: int = SEED) -> Drawn:
    """Draw packs as they may be built, and take them through the tests."""
    return taken_through(pack, built(pack, count, seed))


def taken_through(pack: BenchPack, packs: Built) -> Drawn:
    """Take packs through the tests that load them."""
    model = GroupsModel(pack, packs)
    gone = emptied(model, pack.discharge_a)
    run = gone if pack.discharge_a == pack.load_a else emptied(model, pack.load_a)
    return Drawn(packs, model, stairs(model), gone, run.hours)


def shown_by(drawn: Drawn) -> dict[str, Array]:
    """What packs show, (n,) by key, of all that tells of their parameters (methods 42)."""
    steps, pack = drawn.stairs, drawn.model.pack
    joints = drawn.packs.joints @ pack.joint_ohm
    return {
        "staircase.pack_mohm": 1e3 * through_origin(steps.amps, steps.off_v - steps.on_v),
        "staircase.path_mohm": 1e3 * through_origin(steps.amps, steps.on_v - steps.out_v),
        "staircase.strip_k": at_top(steps.amps, steps.strip_k),
        "staircase.cells_k": steps.cells_k[:, -1],
        "staircase.leads_k": at_top(steps.amps, steps.leads_k),
        "drops.joint_mohm": 1e3 * joints / max(len(pack.joint_ohm), 1),
        "full-discharge.ah": drawn.emptied.ah,
        "full-discharge.wh": drawn.emptied.wh,
        "full-discharge.warm_k": drawn.emptied.warm_k,
    }


def expected_of(pack: BenchPack, drawn: Drawn | None = None) -> Mapping[str, Expected]:
    """What is expected by the key of each observable; without those that the pack has not."""
    drawn = drawn or drawn_packs(pack)
    generator = np.random.default_rng(SEED + 1)
    found = {}
    for key, (values, off) in _columns(pack, drawn, generator).items():
        noisy = values + off * generator.standard_normal(len(values))
        band = _band(noisy)
        found[key] = replace(band, low=0.0, far_low=-np.inf) if key in LITTLE_IS_WELL else band
    return found


def _band(values: Array) -> Expected:
    middle, spread = float(np.median(values)), float(values.std())
    low, high = (float(it) for it in np.quantile(values, INSIDE))
    far = np.quantile(values, (0.005, 0.995))
    return Expected(
        middle,
        low,
        high,
        far_low=min(float(far[0]), middle - FAR * spread),
        far_high=max(float(far[1]), middle + FAR * spread),
    )


def _columns(
    pack: BenchPack, drawn: Drawn, generator: np.random.Generator
) -> dict[str, tuple[Array, Array | float]]:
    """By key: what drawn packs show, (n,), and the standard deviation of what is read of it.

    It is long, for it names every figure of every test.
    """
    packs, model, shown = drawn.packs, drawn.model, shown_by(drawn)
    count, load = packs.many, pack.load_a
    cell_v = pack.full_v / pack.series
    volts_off = VOLT_SHARE * pack.full_v + VOLT_V
    group_off = VOLT_SHARE * cell_v + VOLT_V
    told_off = float(np.hypot(group_off, TOLD_V))
    none = np.zeros(count)
    slope = _slope_v(pack, KEPT_AT)
    rest_v = pack.behaviour.rest(np.clip(as_found(model, AS_FOUND), 0.0, 1.0))
    on_full_v = model.creeping_v(model.full, -pack.tail_a)
    found: dict[str, tuple[Array, Array | float]] = {
        **{key: (shown[key], 1e3 * VOLT_V * np.sqrt(2.0) / load) for key in BY_DROPS},
        **{key: (shown[key], AMP_SHARE * shown[key]) for key in BY_AMPS},
        **{key: (shown[key], KELVIN * np.sqrt(2.0)) for key in BY_WARMTH},
        **_eased(drawn.stairs),
        "insulation.case_v": (np.abs(CASE_V / FAR * generator.standard_normal(count)), VOLT_V),
        "groups.spread_v": (_range(rest_v, group_off, generator), 0.0),
        "total.difference_v": (
            none,
            float(np.hypot(volts_off, group_off * np.sqrt(pack.series))),
        ),
        "full-charge.spread_v": (_range(on_full_v, told_off, generator), 0.0),
        "charger-stop.stop_v": (pack.charger_v * packs.charger, volts_off),
        "self-discharge.mv_day": (
            1e3 * slope * MONTH_SHARE / 30.0 * _most_lost(packs, generator),
            1e3 * group_off * np.sqrt(2.0) / 7.0,
        ),
    }
    drop_off = 1e3 * VOLT_V * np.sqrt(2.0) / load
    for part in PARTS:
        if part != "leads" and pack.parts_ohm[PARTS.index(part)] > 0.0:
            found[f"drops.{part}_mohm"] = (1e3 * part_ohm(model, part), drop_off)
    if pack.series > 1:
        joints = 1e3 * packs.joints * pack.joint_ohm
        joints = joints + drop_off * generator.standard_normal(joints.shape)
        found["drops.joint_mohm"] = (joints.mean(axis=1), 0.0)
    if pack.series > 2 and load * pack.joint_ohm[0] > SEEN_TIMES * VOLT_V:
        found["drops.worst"] = (worst_over(joints), 0.0)
    if pack.surge_a > 0.0:
        surge = np.exp(pack.spreads.surge * generator.standard_normal(count))
        found["surge.peak_a"] = (pack.surge_a * surge, CLAMP_SHARE * pack.surge_a)
    board = pack.board
    if board is not None and board.wakes != "itself":
        leak = np.abs(LEAK_V / FAR * generator.standard_normal(count))
        found["asleep.output_v"] = (leak, VOLT_V)
    if board is not None and board.protects:
        found["over-current.trip_a"] = (
            board.stages[0].current_a * packs.trip,
            AMP_SHARE * board.stages[0].current_a + TRIP_STEP * board.stages[0].current_a / 3.46,
        )
        found["over-voltage.trip_v"] = (board.over_voltage_v + packs.over_v, told_off)
        found["under-voltage.trip_v"] = (board.under_voltage_v + packs.under_v, told_off)
    elif board is not None and board.ends_a_charge:
        found["over-voltage.trip_v"] = (board.over_voltage_v + packs.over_v, told_off)
    return found


def _eased(steps: Stairs) -> Mapping[str, tuple[Array, Array | float]]:
    """What comes back after the last level, where it is told from what the meter is off by."""
    volts, off = steps.eased_v, VOLT_V * np.sqrt(2.0)
    first, second = np.diff(volts, axis=1).T
    if float(second.mean()) < SEEN_TIMES * off:
        return {}
    constant = eases_s(volts)
    # The share by which it falls is off by what each of its two is off by.
    share = off * np.hypot(1.0 / first, 1.0 / second)
    milli = 1e3 / float(steps.amps[-1])
    return {
        "staircase.eased_mohm": (milli * (first + second), milli * off),
        "staircase.eased_s": (constant, constant * constant / EASES_S * share),
    }


# Figures of which there cannot be too little.
LITTLE_IS_WELL = (
    "insulation.case_v", "asleep.output_v", "groups.spread_v", "full-charge.spread_v",
    "drops.worst", "self-discharge.mv_day",
)  # fmt: skip
# What is told by drops in volts, by amps summed, and by a difference of two thermometers.
BY_DROPS = ("staircase.pack_mohm", "staircase.path_mohm")
BY_AMPS = ("full-discharge.ah", "full-discharge.wh")
BY_WARMTH = ("staircase.strip_k", "staircase.cells_k", "staircase.leads_k", "full-discharge.warm_k")
# A drop is told from another where it is so many times what the meter is off by.
SEEN_TIMES = 4.0
# The over-current test rises by such steps, as shares of the level.
TRIP_STEP = 0.02


def worst_over(joints: Array) -> Array:
    """The worst of joints (n, m) over the mean of the others, (n,)."""
    most, total = joints.max(axis=1), joints.sum(axis=1)
    others = (total - most) / (joints.shape[1] - 1)
    return np.asarray(most / np.maximum(others, 1e-9))


def _slope_v(pack: BenchPack, charge: float) -> float:
    """Volts by which a cell rests higher for all of its charge, about a charge."""
    ends = pack.behaviour.rest(np.array([charge - 0.05, charge + 0.05]))
    return float(ends[1] - ends[0]) / 0.1


def _range(volts: Array, off: float, generator: np.random.Generator) -> Array:
    """Highest less lowest of groups (n, S) as a meter reads them, (n,)."""
    read = volts + off * generator.standard_normal(volts.shape)
    return np.asarray(read.max(axis=1) - read.min(axis=1))


def _most_lost(packs: Built, generator: np.random.Generator) -> Array:
    """By how much more than usual the worst group of each pack loses, (n,)."""
    factor = np.exp(MONTH_SPREAD * generator.standard_normal(packs.charge.shape))
    return np.asarray(factor.max(axis=1))
