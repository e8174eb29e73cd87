"""What a proposed joint is asked to carry, once the network has shown how the current shares."""

from __future__ import annotations

import math

from lumvak.core.document.power import School
from lumvak.core.figures.link import PathLoad
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.network_figures import NetworkFigures

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
    limit, peak = network.limits[role].value, network.peak_limits[role].value
    carries = math.inf if limit is None else float(limit)
    holds = math.inf if peak is None else float(peak)
    if load.load_a <= carries * (1.0 + 1e-9) and load.peak_a <= holds * (1.0 + 1e-9):
        return result.over
    harsh = max(chosen.limits_a[school] / carries, chosen.peak_limits_a[school] / holds)
    return max(harsh, result.over * LEAST_MORE)
