"""Made-up harnesses: groups, a fault or two, a meter that is off within its bounds."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.random import Generator

from lumvak.core.taps.faults import (
    OPEN,
    Joints,
    moved,
    shifted_down,
    shifted_up,
    swapped,
)
from lumvak.core.taps.hypotheses import Hypothesis
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Array, Between, Case, TapMeter
from lumvak.core.taps.verdict import TapVerdict, judged

LEAD_FAULTS = ("swapped", "shifted", "reversed", "open", "doubled")
GROUP_FAULTS = ("weak-group", "flat-group", "reversed-group")
# Orders that are mixed: how many leads change places, none of them left where it belongs.
ORDERS = {"three in a ring": 3, "two swaps": 2, "four mixed": 4, "five mixed": 5, "six mixed": 6}
METER = TapMeter(0.005, 2.0, 0.01)


class Harness:
    """A harness as it truly is, and its meter; ``each`` is one that is off anew each time."""

    def __init__(self, groups: Array, draw: Generator, each: bool, meter: TapMeter = METER) -> None:
        self.groups, self.draw, self.each, self.meter = groups, draw, each, meter
        self.joint: Joints = np.arange(len(self.groups) + 1, dtype=np.int16)
        self.lack = np.zeros(len(self.groups))
        self.gain = self.draw.uniform(-1.0, 1.0) * self.meter.percent
        self.floats = {
            lead: self._loose(lead) if self.draw.random() < 0.5 else float("nan")
            for lead in range(len(self.joint))
        }
        # Open it hangs on the meter alone, and reads 0 V from main minus.
        self.floats[0] = 0.0

    def _loose(self, lead: int) -> float:
        """What an open lead shows: anything that no joint has, for else it is no open lead."""
        level = np.concatenate([[0.0], np.cumsum(self.groups)])
        off = 2.2 * float(self.meter.within(level[-1:])[0])
        tries = [float(self.draw.uniform(0.0, level[-1])) for _ in range(200)]
        # High up a meter leaves no room between joints.
        return next((item for item in tries if np.abs(level - item).min() > off), tries[-1])

    def add(self, name: str) -> None:
        """Make a fault, on top of what is wrong already."""
        leads, draw = len(self.joint), self.draw
        if name == "swapped":
            self.joint = swapped(self.joint, *draw.choice(leads, 2, replace=False).tolist())
        elif name == "shifted" and draw.random() < 0.5:
            self.joint = shifted_down(self.joint, int(draw.integers(1, leads)))
        elif name == "shifted":
            ends = leads - 1 if draw.random() < 0.5 else OPEN
            self.joint = shifted_up(self.joint, int(draw.integers(0, leads - 1)), ends)
        elif name == "reversed":
            self.joint = self.joint[::-1].copy()
        elif name == "open":
            self.joint = moved(self.joint, int(draw.integers(leads)), OPEN)
        elif name == "doubled":
            lead = int(draw.integers(leads))
            near = [place for place in (lead - 1, lead + 1) if 0 <= place < leads]
            self.joint = moved(self.joint, lead, int(draw.choice(near)))
        else:
            group = int(draw.integers(len(self.groups)))
            volts = float(self.groups[group])
            self.lack[group] = {
                "weak-group": draw.uniform(0.3, 1.2),
                "flat-group": volts - draw.uniform(0.0, 1.2) * (draw.random() < 0.5),
                "reversed-group": volts + draw.uniform(0.5, 1.0) * volts,
            }[name]

    def mix(self, order: str) -> None:
        """Mix the order of some leads, as one of ``ORDERS``; half of them neighbours."""
        many, leads, draw = ORDERS[order], len(self.joint), self.draw
        which = draw.choice(leads, 2 * many if many == 2 else many, replace=False)
        if draw.random() < 0.5:
            begins = int(draw.integers(leads - len(which) + 1))
            which = draw.permutation(np.arange(begins, begins + len(which)))
        if many == 2:
            for pair in (which[:2], which[2:]):
                self.joint = swapped(self.joint, *pair.tolist())
            return
        order_of = draw.permutation(many)
        while (order_of == np.arange(many)).any():
            order_of = draw.permutation(many)
        self.joint[which] = self.joint[which[order_of]]

    @property
    def level(self) -> Array:
        return np.concatenate([[0.0], np.cumsum(self.groups - self.lack)])

    def volts(self, end: int) -> float:
        if end == MAIN_MINUS:
            return 0.0
        if end == MAIN_PLUS:
            return float(self.level[-1])
        place = end - JOINT if end >= JOINT else int(self.joint[end])
        return self.floats[end] if place == OPEN else float(self.level[place])

    def shows(self, start: int, end: int) -> float:
        """What the meter shows between two ends; NaN where it shows nothing."""
        true = self.volts(end) - self.volts(start)
        if 0 in (start, end) and self.joint[0] == OPEN:
            # The meter pulls an open lead 0 to whatever its other probe is on.
            true = 0.0
        gain = self.draw.uniform(-1.0, 1.0) * self.meter.percent if self.each else self.gain
        step = self.meter.resolution_v
        digits = self.draw.uniform(-1.0, 1.0) * self.meter.digits * step
        return float(np.round((true * (1.0 + gain) + digits) / step) * step)

    def case(self, more: Sequence[Between] = ()) -> Case:
        if not hasattr(self, "totals"):
            self.totals = np.array(
                [self.shows(MAIN_MINUS, lead) for lead in range(len(self.joint))]
            )
        return Case(self.groups, self.totals, self.meter, tuple(more))

    def is_told_by(self, found: Hypothesis) -> bool:
        """Whether a hypothesis is this very harness."""
        lacking = {group for group, *_ in found.lack}
        true = set((np.flatnonzero(self.lack) + 1).tolist())
        return bool((found.joint == self.joint).all()) and lacking == true


def harness(draw: Generator, each: bool, faults: Sequence[str], groups: int = 0) -> Harness:
    """Between 3 and 24 groups that differ by up to 0.15 V, with these faults."""
    count = groups or int(draw.integers(3, 25))
    volts = np.round(draw.uniform(3.0, 4.05) + draw.uniform(-0.075, 0.075, count), 3)
    made = Harness(volts, draw, each)
    for fault in faults:
        made.add(fault)
    return made


def followed(made: Harness, rounds: int) -> tuple[TapVerdict, int]:
    """The verdict after as many further readings as it asks for, up to ``rounds``; how many."""
    more: list[Between] = []
    while True:
        found = judged(made.case(more))
        if found.safe or found.next is None or len(more) == rounds:
            return found, len(more)
        shown = made.shows(found.next.start, found.next.end)
        more.append(Between(found.next.start, found.next.end, shown))


def followed_on(made: Harness) -> tuple[TapVerdict, int]:
    """The verdict once every reading that is asked for was taken, those across groups too."""
    more: list[Between] = []
    for _ in range(2 * len(made.groups) + 4):
        found = judged(made.case(more))
        if found.next is None:
            break
        shown = made.shows(found.next.start, found.next.end)
        more.append(Between(found.next.start, found.next.end, shown))
    return found, len(more)
