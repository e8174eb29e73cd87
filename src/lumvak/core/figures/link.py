"""A link of the current path, as every topic makes them, and what the load asks of each."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.figures.figure import Figure
from lumvak.core.said import Text
from lumvak.core.time_current import Array, at_time


class Link(Struct, frozen=True, eq=False):
    """One part of the current path.

    ``continuous_a`` and ``peak_a`` are pack currents in A, infinite where the part sets no limit;
    ``limit`` is the figure that explains the continuous one; ``stage`` is where it is set;
    ``hold_a`` (T,) is what it holds for each of TIMES_S, ``None`` where that is the continuous one.
    """

    key: str
    name: Text
    detail: Text
    stage: str
    continuous_a: float
    peak_a: float
    demand_a: float
    peak_demand_a: float
    peak_s: float
    limit: Figure
    hold_a: Array | None = None

    def limit_a(self, seconds: float) -> float:
        """Pack current in A that it holds for so long, never under the continuous one."""
        if self.hold_a is None:
            return self.continuous_a
        return max(self.continuous_a, at_time(self.hold_a, seconds))

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


class PathLoad(Struct, frozen=True):
    """What the load asks of every link, in A, and for how long its peak lasts, in s."""

    load_a: float
    peak_a: float
    peak_s: float

    def link(
        self,
        key: str,
        name: Text,
        detail: Text,
        stage: str,
        limit: Figure,
        hold_a: Array | None = None,
        peak_a: float | None = None,
    ) -> Link:
        """A link under this load.

        ``hold_a`` is what it holds over TIMES_S, (T,); ``peak_a`` is what it holds for the peak,
        without which that follows from ``hold_a``.
        """
        carries = math.inf if limit.value is None else limit.number
        if peak_a is None:
            peak_a = carries if hold_a is None else at_time(hold_a, self.peak_s)
        return Link(
            key,
            name,
            detail=detail,
            stage=stage,
            continuous_a=carries,
            peak_a=peak_a,
            demand_a=self.load_a,
            peak_demand_a=self.peak_a,
            peak_s=self.peak_s,
            limit=limit,
            hold_a=hold_a,
        )
