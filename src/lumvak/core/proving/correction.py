"""What the readings say of the pack itself: parameters moved from their priors (methods 42).

Maximum a posteriori: each parameter is the logarithm of its share of the design, with a spread that
comes from drawn packs; each reading pulls with its error and what the model leaves out.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.proving.bench_pack import BenchPack, Built, as_designed
from lumvak.core.proving.expected import Drawn, shown_by, taken_through
from lumvak.core.proving.groups_model import GroupsModel
from lumvak.core.proving.measured import Measured
from lumvak.core.proving.programme import stairs, standard_error

Array = NDArray[np.float64]
PARAMETERS = ("capacity", "resistance", "joints", "path", "cooling", "strip", "leads")
STRIP, LEADS = PARAMETERS.index("strip"), PARAMETERS.index("leads")
LABELS = {
    "capacity": ("Charge of the weakest group", "Ah"),
    "resistance": ("Resistance of the cells", "mΩ"),
    "joints": ("Series connections together", "mΩ"),
    "path": ("From the cells to the output", "mΩ"),
    "cooling": ("Cells to the air", "K/W"),
    "strip": ("Busiest strip over the cells", "K"),
    "leads": ("Main leads over the air", "K"),
}
# Which readings say something of the parameters.
TELLING = (
    "staircase.pack_mohm", "staircase.path_mohm", "staircase.strip_k", "staircase.cells_k",
    "staircase.leads_k", "drops.joint_mohm", "full-discharge.ah", "full-discharge.wh",
    "full-discharge.warm_k",
)  # fmt: skip
# A discharge is followed and read in steps, and groups are bled while a pack is filled before it:
# together off by such a share.
STEPPED, STEPPED_SHARE = ("full-discharge.ah", "full-discharge.wh"), 0.001
# The volts of a staircase bend as charge and warmth go on; what is left of the scatter about a line
# once that of the model is taken off, is no less than such a share (methods 42).
BENT, BENT_SHARE = "staircase.pack_mohm", 0.005
# What is told of the pack from them: hours from full at the continuous current.
HOURS = "hours"
SHOWN = (*TELLING, HOURS)
STEP, ROUNDS = 0.02, 2
# 90 of 100 lie within so many standard deviations.
NINETY = 1.645


class Proven(Struct, frozen=True):
    """A figure as it is with what was measured, and its band of nine in ten."""

    value: float
    low: float
    high: float


class Posterior(Struct, frozen=True, eq=False):
    """Parameters before and after: means and spreads of their logarithms, (7,) and (7, 7).

    ``used`` are the keys of the readings that moved them; ``hours_before`` and ``hours_after`` are
    the run time from full at the continuous current.
    """

    before: Array
    after: Array
    spread_before: Array
    spread_after: Array
    used: tuple[str, ...]
    hours_before: Proven
    hours_after: Proven


class Corrected(Struct, frozen=True):
    """A parameter in its unit, before and after, with standard deviations."""

    name: str
    label: str
    unit: str
    before: float
    after: float
    sigma_before: float
    sigma_after: float


def parameters_of(pack: BenchPack, packs: Built, full: Array | None = None) -> Array:
    """The logarithms of the parameters of built packs over the design, (n, 7).

    ``full`` (n, S) are the charges of their groups when full, where they are known otherwise.
    """
    model = GroupsModel(pack, packs)
    held = (packs.capacity * (model.full if full is None else full)).min(axis=1)
    path = model.path_ohm / max(float(pack.parts_ohm.sum()), 1e-12)
    joints = np.ones(packs.many)
    if len(pack.joint_ohm):
        joints = model.joints_ohm / float(pack.joint_ohm.sum())
    columns = (
        held,
        packs.resistance.mean(axis=1),
        joints,
        path,
        packs.cooling,
        packs.strip,
        packs.leads,
    )
    return np.asarray(np.log(np.stack(columns, axis=1)))


def packs_of(pack: BenchPack, parameters: Array) -> Built:
    """Packs with such parameters (n, 7), their groups all alike."""
    plain = as_designed(pack, len(parameters))
    factor = np.exp(parameters)
    built = replace(
        plain,
        resistance=plain.resistance * factor[:, 1:2],
        joints=plain.joints * factor[:, 2:3],
        parts=plain.parts * factor[:, 3:4],
        cooling=factor[:, 4],
        strip=factor[:, 5],
        leads=factor[:, 6],
    )
    full = GroupsModel(pack, built).full.mean(axis=1)
    return replace(built, capacity=plain.capacity * (factor[:, 0] / full)[:, None])


def _stacked(drawn: Drawn, keys: Sequence[str]) -> Array:
    shown = {**shown_by(drawn), HOURS: drawn.hours}
    return np.stack([shown[key] for key in keys], axis=1)


class Prior(Struct, frozen=True, eq=False):
    """What drawn packs say beforehand: parameters, their spread, and what the model leaves out.

    ``bias`` and ``noise`` are the mean and the spread by which what packs show differs from what
    packs of like groups with their parameters show, by SHOWN; ``first`` is what such packs show at
    the mean, where every correction begins, and ``bend_mohm`` the standard error of a line through
    their staircase.
    """

    mean: Array
    spread: Array
    bias: Array
    noise: Array
    first: _Line
    bend_mohm: float


def prior_of(pack: BenchPack, drawn: Drawn) -> Prior:
    """The prior of a pack from drawn ones."""
    own = parameters_of(pack, drawn.packs)
    alike = taken_through(pack, packs_of(pack, own))
    rest = _stacked(drawn, SHOWN) - _stacked(alike, SHOWN)
    spread = np.cov(own.T) + 1e-8 * np.eye(len(PARAMETERS))
    mean = own.mean(axis=0)
    steps = stairs(GroupsModel(pack, packs_of(pack, mean[None, :])))
    bend = standard_error(steps.amps, (steps.off_v - steps.on_v)[0])
    noise = np.cov(rest.T)
    return Prior(mean, spread, rest.mean(axis=0), noise, _linear(pack, mean), bend_mohm=1e3 * bend)


def posterior(pack: BenchPack, prior: Prior, read: Mapping[str, Measured]) -> Posterior:
    """Parameters moved by what was ``read``.

    Gauss–Newton on prior and readings together; what the model of like groups leaves out of the
    drawn packs counts as an error of each reading.
    """
    places = [place for place, key in enumerate(TELLING) if key in read]
    noise = prior.noise[np.ix_(places, places)]
    noise = noise + np.diag([_off(prior, TELLING[place], read) ** 2 for place in places])
    values = np.array([read[TELLING[place]].value for place in places]) - prior.bias[places]
    mean, spread = prior.mean, prior.spread
    first = line = prior.first
    at, left, shared, sums = mean, spread, np.zeros(len(places)), noise
    hours = float(first.shown[-1])
    for turn in range(ROUNDS if places else 0):
        line = _linear(pack, at) if turn else first
        slope = line.slopes[places]
        news = values - line.shown[places] + slope @ (at - mean)
        sums = slope @ spread @ slope.T + noise
        gain = spread @ slope.T @ np.linalg.inv(sums)
        at, was = mean + gain @ news, at
        left = spread - gain @ slope @ spread
        shared = prior.noise[-1, places] + line.slopes[-1] @ spread @ slope.T
        # What the model of like groups leaves out of the readings, it leaves out of the hours.
        left_out = float(prior.noise[-1, places] @ np.linalg.solve(sums, news))
        hours = float(line.shown[-1] + line.slopes[-1] @ (at - was)) + left_out
    own = float(prior.noise[-1, -1])
    wide = own + float(first.slopes[-1] @ spread @ first.slopes[-1])
    narrow = own + float(line.slopes[-1] @ spread @ line.slopes[-1])
    narrow -= float(shared @ np.linalg.solve(sums, shared)) if places else 0.0
    return Posterior(
        before=mean,
        after=at,
        spread_before=spread,
        spread_after=left,
        used=tuple(TELLING[place] for place in places),
        hours_before=_within(float(first.shown[-1] + prior.bias[-1]), wide),
        hours_after=_within(hours + float(prior.bias[-1]), narrow),
    )


def _off(prior: Prior, key: str, read: Mapping[str, Measured]) -> float:
    """What a reading may be off by beside what the model tells of it."""
    if key == BENT:
        own = read[key].off ** 2 - prior.bend_mohm**2
        return math.sqrt(max(own, (BENT_SHARE * read[key].value) ** 2))
    followed = STEPPED_SHARE * read[key].value if key in STEPPED else 0.0
    return float(np.hypot(read[key].off, followed))


class _Line(Struct, frozen=True, eq=False):
    """What packs of like groups show at some parameters, (m,), and its slopes in them, (m, 7)."""

    shown: Array
    slopes: Array


def _linear(pack: BenchPack, at: Array) -> _Line:
    columns = np.concatenate(([at], at + STEP * np.eye(len(at))))
    shown = _stacked(taken_through(pack, packs_of(pack, columns)), SHOWN)
    return _Line(shown[0], (shown[1:] - shown[0]).T / STEP)


def _within(value: float, square: float) -> Proven:
    off = NINETY * float(np.sqrt(max(square, 0.0)))
    return Proven(value, value - off, value + off)


def corrected(pack: BenchPack, found: Posterior) -> tuple[Corrected, ...]:
    """The parameters in their units."""
    units = _units(pack)
    made = []
    for place, name in enumerate(PARAMETERS):
        label, unit = LABELS[name]
        before, after = (
            units[name] * float(np.exp(it[place])) for it in (found.before, found.after)
        )
        spreads = (found.spread_before, found.spread_after)
        sigmas = [float(np.sqrt(it[place, place])) for it in spreads]
        made.append(
            Corrected(
                name,
                label,
                unit,
                before=before,
                after=after,
                sigma_before=before * sigmas[0],
                sigma_after=after * sigmas[1],
            )
        )
    return tuple(made)


def _units(pack: BenchPack) -> dict[str, float]:
    """What each parameter is in its unit as designed."""
    return {
        "capacity": pack.group_ah,
        "resistance": 1e3 * pack.series * pack.behaviour.ten_second_ohm / pack.parallel,
        "joints": 1e3 * float(pack.joint_ohm.sum()),
        "path": 1e3 * float(pack.parts_ohm.sum()),
        "cooling": pack.kelvin_per_watt,
        "strip": pack.strip_k,
        "leads": pack.leads_k,
    }


def in_units(pack: BenchPack, parameters: Array) -> dict[str, float]:
    """Parameters (7,) in their units, by name."""
    units = _units(pack)
    return {
        name: units[name] * float(np.exp(parameters[place]))
        for place, name in enumerate(PARAMETERS)
    }


def continuous_a(limits: Mapping[str, float], at: Array, spread: Array) -> Proven:
    """What the path holds continuously: strips and leads by their own warmth, the rest as designed.

    ``limits`` are those of the links in A by key, ``at`` (7,) and ``spread`` (7, 7) the parameters.
    A rise goes with the square of the current.
    """

    def lowest(parameters: Array) -> float:
        own = {
            "series-joints": float(np.exp(-0.5 * parameters[STRIP])),
            "leads": float(np.exp(-0.5 * parameters[LEADS])),
        }
        return min(limit * own.get(key, 1.0) for key, limit in limits.items())

    middle = lowest(at)
    slopes = np.array([(lowest(at + STEP * unit) - middle) / STEP for unit in np.eye(len(at))])
    return _within(middle, float(slopes @ spread @ slopes))
