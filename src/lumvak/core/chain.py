"""The chain: every part the current passes, with its limits, its demand and the weakest link."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from lumvak.core.figures import Figure


@dataclass(frozen=True, slots=True)
class Link:
    """One part of the current path.

    ``continuous_a`` and ``peak_a`` are pack currents in A, infinite where the part sets no limit;
    ``limit`` is the figure that explains the continuous one; ``stage`` is where it is set.
    """

    key: str
    name: str
    detail: str
    stage: str
    continuous_a: float
    peak_a: float
    demand_a: float
    peak_demand_a: float
    peak_s: float
    limit: Figure

    @property
    def headroom(self) -> float:
        """Share to spare over the continuous demand; negative where it is exceeded."""
        return self.continuous_a / self.demand_a - 1.0

    @property
    def bursts(self) -> bool:
        """Whether the demand, continuous or peak, is more than the part carries."""
        return self.demand_a > self.continuous_a * (
            1.0 + 1e-9
        ) or self.peak_demand_a > self.peak_a * (1.0 + 1e-9)


def weakest(links: Sequence[Link]) -> Link | None:
    """The link with the least continuous limit; ``None`` where nothing sets one."""
    limited = [link for link in links if math.isfinite(link.continuous_a)]
    return min(limited, key=lambda link: link.continuous_a, default=None)
