"""What a proposed joint is asked to carry, once the network has shown how the current shares."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.power import School
from lumvak.core.figures.link import PathLoad
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.joints.pieces import SERIES, Pieces

# Where no more than this share of the series joints is at its limit, these alone get more layers,
# up to so many.
FEW_SHARE, MOST_ON_ONE = 0.5, 12
# A joint that failed is asked for at least so much more.
LEAST_MORE = 1.1


def asked_over(
    result: JointResult, network: NetworkFigures | None, load: PathLoad, school: School
) -> float:
    """How many times more than by even sharing the proposed joint must carry (methods 10).

    What it was asked so far, where the joint is not the proposed one, or the solved network shows
    that it carries ``load``; else what it carries by even sharing over what it does as solved.
    """
    chosen, role = result.chosen, result.setting.role
    if network is None or not result.follows or role not in network.limits:
        return result.over
    carries, holds = network.limits[role].at_most, network.peak_limits[role].at_most
    if load.load_a <= carries * (1.0 + 1e-9) and load.peak_a <= holds * (1.0 + 1e-9):
        return result.over
    harsh = max(chosen.limits_a[school] / carries, chosen.peak_limits_a[school] / holds)
    return max(harsh, result.over * LEAST_MORE)


class Asked(Struct, frozen=True):
    """What proposed joints must carry: times even sharing, and layers of single series joints.

    ``layers`` are pairs of a joint's level and the layers that it takes.
    """

    group_over: float = 1.0
    series_over: float = 1.0
    layers: tuple[tuple[int, int], ...] = ()


NOTHING_MORE = Asked()


def asked_for(
    asked: Asked,
    group: JointResult,
    series: JointResult,
    joined_pack: JoinedPack,
    network: NetworkFigures | None,
    load: PathLoad,
    school: School,
) -> Asked:
    """What is to be asked once the network was solved; the same where all of it carries.

    A few series joints at their limit, longer or narrower than the others, get a layer more each;
    where most are, a stronger conductor is asked for.
    """
    group_over = asked_over(group, network, load, school)
    layers = _more_layers(asked, series, joined_pack, load)
    if layers != asked.layers:
        return Asked(group_over, asked.series_over, layers)
    return Asked(group_over, asked_over(series, network, load, school), layers)


def _more_layers(
    asked: Asked, series: JointResult, joined_pack: JoinedPack, load: PathLoad
) -> tuple[tuple[int, int], ...]:
    """A layer more for each of a few series joints that do not carry the load."""
    if joined_pack.carried is None or not series.follows:
        return asked.layers
    pieces = joined_pack.pieces
    own = np.flatnonzero((pieces.kind == SERIES) & ~pieces.meshed)
    limit, peak = joined_pack.carried.pack_limit_a[own], joined_pack.carried.pack_peak_a[own]
    over = np.maximum(load.load_a / limit, load.peak_a / peak)
    failing = over > 1.0 + 1e-9
    levels = set(pieces.level[own[failing]].tolist())
    every = set(pieces.level[own].tolist())
    if not levels or len(levels) > FEW_SHARE * len(every):
        return asked.layers
    now = dict(asked.layers)
    for level in levels:
        before = now.get(level, series.chosen.layers)
        times = float(over[pieces.level[own] == level].max())
        now[level] = min(MOST_ON_ONE, max(before + 1, math.ceil(before * times)))
    return tuple(sorted(now.items()))


def stronger(pieces: Pieces, layers: tuple[tuple[int, int], ...]) -> Pieces:
    """The pieces with more layers on single series joints, but where the builder set them."""
    if not layers:
        return pieces
    wanted = pieces.layers.copy()
    for level, count in layers:
        wanted[(pieces.kind == SERIES) & (pieces.level == level) & (pieces.layers == 0)] = count
    return replace(pieces, layers=wanted)
