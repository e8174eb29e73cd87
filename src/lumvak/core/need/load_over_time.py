"""What the load draws for how long: continuous, peak, duty, and the start of a motor."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.arrays import distinct
from lumvak.core.catalogue.power_parts import Surge
from lumvak.core.conductors.thermistor import thermistor_ohm
from lumvak.core.document.need import Need
from lumvak.core.document.power import Start
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.need.demand import Demand
from lumvak.core.need.duty import longest_stretch_s
from lumvak.core.time_current import TIMES_S, Array

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
STALL_CURRENT_A = Rule("need.stall_current_a", "Stall current", "A",
                       "estimated by the builder, not measured", "the project")
CURRENT_A = Rule("start.current_a", "A start draws", "A", "the stall current: nothing limits it",
                 "methods 23")
SPIN_UP_S = Rule("start.spin_up_s", "Motor runs up in", "s",
                 "usual for this kind of equipment; three time constants of its current",
                 "methods 23")
START_CURRENT_A = Rule("start.current_a", "A start draws", "A",
                       "the stall current, no more than the controller lets by", "methods 23")
# fmt: on

# A motor has run up after three time constants; assumed run-up in s by kind of equipment.
RUN_UP_CONSTANTS = 3.0
RUN_UP_S = {"tool": 0.3, "vehicle": 1.5, "supply": 0.5, "portable": 0.5}
MOST_LEVELS = 16


class Draw(Struct, frozen=True):
    """What the pack must give, from its own side, all in A and s.

    ``start_a`` is what a standing motor draws at full throttle, falling to ``continuous_a`` with
    ``tau_s``; 0 where no start is known. ``levels`` are amounts of a duty with their longest
    stretches.
    """

    continuous_a: float
    peak_a: float
    peak_s: float
    start_a: float = 0.0
    tau_s: float = 0.1
    levels: tuple[tuple[float, float], ...] = ()

    def start_after_a(self, seconds: float) -> float:
        """What a start still draws after so many seconds."""
        if self.start_a <= 0.0:
            return 0.0
        over = max(self.start_a - self.continuous_a, 0.0)
        return min(self.start_a, self.continuous_a + over * math.exp(-seconds / self.tau_s))

    def most_a(self, seconds: float) -> float:
        """The most that is drawn for so long without a break."""
        most = self.continuous_a
        if seconds <= self.peak_s * (1.0 + 1e-9):
            most = max(most, self.peak_a)
        for level, stretch in self.levels:
            if seconds <= stretch * (1.0 + 1e-9):
                most = max(most, level)
        return max(most, self.start_after_a(seconds))

    @property
    def curve(self) -> Array:
        """(T,) the most that is drawn for each of TIMES_S; shared and not to be changed."""
        return _curve_of(self)

    def limited(self, ohm: float, emf_v: float) -> Draw:
        """The same with a resistance in the path that limits the start."""
        if self.start_a <= 0.0 or ohm <= 0.0:
            return self
        least = emf_v / (emf_v / self.start_a + ohm)
        return replace(self, start_a=max(least, self.continuous_a))


@lru_cache(maxsize=64)
def _curve_of(draw: Draw) -> Array:
    curve = np.full(TIMES_S.shape, draw.continuous_a)
    for amps, seconds in ((draw.peak_a, draw.peak_s), *draw.levels):
        within = seconds * (1.0 + 1e-9) >= TIMES_S
        curve[within] = np.maximum(curve[within], amps)
    if draw.start_a > 0.0:
        over = max(draw.start_a - draw.continuous_a, 0.0)
        decay = draw.continuous_a + over * np.exp(-TIMES_S / draw.tau_s)
        curve = np.maximum(curve, np.minimum(draw.start_a, decay))
    return curve


class DrawMade(NamedTuple):
    """What is drawn over time, and the figures that it was made of."""

    draw: Draw
    figures: tuple[Figure, ...]


def draw_of(demand: Demand, need: Need, start: Start) -> DrawMade:
    """What the need draws over time, and the figures of the start (methods 22)."""
    spin_up = SPIN_UP_S.said_or(start.spin_up_s, RUN_UP_S[need.kind])
    figure = start_current(need)
    levels: tuple[tuple[float, float], ...] = ()
    if demand.duty:
        amounts, seconds = np.array(demand.duty).T
        scale = demand.highest_current.number / demand.load_figure.number
        tops = distinct(amounts)[::-1][:MOST_LEVELS]
        levels = tuple(
            (float(top) * scale, longest_stretch_s(amounts, seconds, float(top))) for top in tops
        )
    draw = Draw(
        demand.highest_current.number,
        demand.peak.number,
        demand.peak_duration.number,
        0.0 if figure is None else figure.number,
        spin_up.number / RUN_UP_CONSTANTS,
        levels,
    )
    return DrawMade(draw, (spin_up,) if figure is None else (spin_up, figure))


class DrawnLoad(Struct, frozen=True):
    """What is drawn over time, as if nothing limited a start, and as a surge part limits it."""

    raw: Draw
    limited: Draw
    figures: tuple[Figure, ...]


def drawn_of(
    demand: Demand, need: Need, start: Start, current: Figure, full: Figure, limiter: Surge | None
) -> DrawnLoad:
    """What the pack in hand must give over time (methods 22).

    ``current`` is its continuous one at the end, ``full`` its full voltage, ``limiter`` the surge
    part that was picked.
    """
    raw, figures = draw_of(demand, need, start)
    raw = replace(raw, continuous_a=current.number)
    cold_ohm = 0.0 if limiter is None else thermistor_ohm(limiter, demand.ambient.number)
    return DrawnLoad(raw, raw.limited(cold_ohm, full.number), figures)


def start_current(need: Need) -> Figure | None:
    """What a standing motor draws from the pack: its stall, no more than a controller lets by."""
    if need.stall_current_a is None:
        return None
    stall = (
        STALL_CURRENT_A.assumed(need.stall_current_a)
        if need.peak_given == "estimated"
        else typed("need.stall_current_a", "Stall current", need.stall_current_a, "A")
    )
    if need.controller_limit_a is None or need.kind != "vehicle":
        return CURRENT_A.of(stall.number, stall)
    limit = typed("need.controller_limit_a", "Controller limit", need.controller_limit_a, "A")
    return START_CURRENT_A.of(min(stall.number, limit.number), stall, limit)
