"""What each hypothesis says of a reading: the circuit of a pack with a fault in it.

What nobody knows is a state of six: volts of a group at rest, resistances over what is usual, how
bad the fault is and a second one beside it, and how much lower the group of each rests by that. A
reading in volts is a line in these, with the scatter of groups and meter about it; or it is
nothing, or it jumps.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.trouble.case import APART_V, OHM_OFF, TroubleCase
from lumvak.core.trouble.hypotheses import (
    BMS_BLOCKS,
    BMS_OPENS,
    HypothesisRows,
    conducts,
    takes_charge,
)

Array = NDArray[np.float64]
Ints = NDArray[np.intp]
# How bad each fault is, and how far that scatters: volts, shares of a resistance, or ohm (ours).
BAD: dict[str, tuple[float, float]] = {
    "group-flat": (-0.85, 0.3), "group-weak": (1.1, 0.5), "group-shorted": (-1.7, 0.6),
    "group-lost-cell": (0.7, 0.35), "group-leaking": (-0.2, 0.09), "bleed-stuck": (-0.2, 0.1),
    "bms-misreads": (0.0, 0.18), "joint-resistive": (0.022, 0.012), "fuse-aged": (0.016, 0.008),
    "connector-worn": (0.022, 0.012),
}  # fmt: skip
SHIFTS = ("group-flat", "group-shorted", "group-leaking", "bleed-stuck")
RESISTS = ("group-weak", "group-lost-cell")
# A group of less charge rests lower once charge was drawn; volts that a group loses in a day.
WEAK_V = {"group-weak": (-0.045, 0.02), "group-lost-cell": (-0.1, 0.045)}
# After a current groups come back by so much of what it dropped in them, each by its own: a share
# of that, and of that of a group that resists more.
COMES_BACK, RESISTS_BACK = 0.15, 0.4
FALLS_V = {"group-leaking": 0.08, "bleed-stuck": 0.3, "group-shorted": 2.0}
DAY_S = 86_400.0
# A pack that the BMS opened for empty rests so far over its empty volts.
LOW_V, LOW_OFF_V = 0.1, 0.08
# A load of no more than this share of the usual one drops nothing out.
LIGHT = 0.35
# What a BMS shows is off by so much.
SHOWN_V = 0.006
# So likely a voltage is sharp where a contact is bad: else it jumps.
STEADY = 0.4


# How many are unknown, and how many columns behind a fault stands how much lower its group rests.
UNKNOWN, LOWER = 6, 2

Branch = Literal["likely", "flows", "stands"]


class ExpectedReading(Struct, frozen=True, eq=False):
    """What hypotheses (n,) expect of a reading.

    In volts it is ``line`` (n, 6) × state + ``more`` (n,) with variance ``scatter`` (n,); it is
    nothing with ``nothing`` (n,), and jumps with ``jumps`` (n,). ``scale`` is how large it may be.
    """

    line: Array
    more: Array
    scatter: Array
    nothing: Array
    jumps: Array
    scale: float


class UnknownState(Struct, frozen=True, eq=False):
    """The unknown of each hypothesis: mean (n, 6) and covariance (n, 6, 6)."""

    mean: Array
    spread: Array


def state_of_case(case: TroubleCase, rows: HypothesisRows) -> UnknownState:
    """What is known before anything is read."""
    mean = np.zeros((rows.count, UNKNOWN))
    spread = np.zeros((rows.count, UNKNOWN, UNKNOWN))
    mean[:, 0], mean[:, 1] = case.rest_v, 1.0
    spread[:, 0, 0], spread[:, 1, 1] = case.rest_off_v**2, OHM_OFF**2
    low, high = rows.of("bms-tripped-low"), rows.of("bms-tripped-high")
    mean[low, 0], spread[low, 0, 0] = case.empty_v + LOW_V, LOW_OFF_V**2
    mean[high, 0], spread[high, 0, 0] = case.full_v - 0.03, 0.03**2
    bad = {
        **BAD,
        "charger-wrong": (0.0, 0.1 * case.charger_v),
        "charger-early": (-0.03 * case.charger_v, 0.012 * case.charger_v),
    }
    for name, (middle, off) in bad.items():
        here, column = np.flatnonzero(rows.of(name)), rows.column(name)
        mean[here, column[here]] = middle
        spread[here, column[here], column[here]] = off**2
    for name, (lower_v, off_v) in WEAK_V.items():
        here = np.flatnonzero(rows.of(name))
        own = rows.column(name)[here] + LOWER
        mean[here, own], spread[here, own, own] = lower_v, off_v**2
    # A fault spoils no more than there is.
    size = case.full_v / 4.2
    for name in SHIFTS:
        here, column = np.flatnonzero(rows.of(name)), rows.column(name)
        mean[here, column[here]] *= size
    return UnknownState(mean, spread)


class FaultyCircuit:
    """A pack in a state: what its groups, its path and its charger show under each hypothesis."""

    def __init__(
        self,
        case: TroubleCase,
        rows: HypothesisRows,
        complaint: ComplaintName,
        state: str,
        amount: float,
        branch: Branch = "likely",
        recovers_a: float = 0.0,
    ) -> None:
        """``branch`` has the current flow under every hypothesis, under none, or as is likely.

        ``recovers_a`` is a current that flowed shortly before.
        """
        self.recovers_v = recovers_a * case.group_ohm
        self.case, self.rows, self.state = case, rows, state
        self.seconds = amount if state == "after" else 0.0
        light = state == "load" and amount <= LIGHT * case.load_a
        self.on = conducts(rows, complaint, state, self.seconds, light)
        self.taken = takes_charge(rows, complaint) if state == "charge" else np.zeros(rows.count)
        if state == "load" and amount > 0.8 * case.trip_a:
            self.on = np.where(rows.of("equipment-over"), 0.2, self.on)
        # How likely the current of this state flows at all.
        self.flowing = self.taken if state == "charge" else self.on
        if branch != "likely":
            held = np.full(rows.count, 1.0 if branch == "flows" else 0.0)
            if state == "load":
                self.on = held
            elif state == "charge":
                self.taken = held
        flows = np.zeros(rows.count)
        if state == "load":
            flows = np.where(self.on >= 0.5, amount, 0.0)
        elif state == "charge":
            flows = np.where(self.taken >= 0.5, -amount, 0.0)
        self.flows = flows

    def _empty(self, scale: float) -> ExpectedReading:
        count = self.rows.count
        line, plain = np.zeros((count, UNKNOWN)), np.zeros((4, count))
        return ExpectedReading(
            line, plain[0], scatter=plain[1], nothing=plain[2], jumps=plain[3], scale=scale
        )

    def _bad(
        self, made: ExpectedReading, name: str, here: Sequence[int] | Ints, by: Array | float
    ) -> None:
        """How bad a cause is counts so much at a place, in some rows."""
        made.line[here, self.rows.column(name)[here]] = by

    def groups(self, first: int, last: int) -> ExpectedReading:
        """The volts across groups ``first`` to ``last`` in a row, from 1, whatever leads there."""
        case, rows = self.case, self.rows
        count = last - first + 1
        made = self._empty(1.2 * count * case.full_v)
        ohm = count * case.group_ohm + (count - 1) * case.joint_ohm
        made.line[:, 0] = count
        made.line[:, 1] = -self.flows * ohm
        made.scatter[:] = count * (APART_V**2 + (0.1 * self.flows * case.group_ohm) ** 2)
        made.scatter[:] += count * (COMES_BACK * self.recovers_v) ** 2
        inside = range(first, last + 1)
        for name in SHIFTS:
            self._bad(made, name, rows.at(name, *inside), 1.0)
        for name in RESISTS:
            here = rows.at(name, *inside)
            self._bad(made, name, here, -self.flows[here] * case.group_ohm)
            made.line[here, rows.column(name)[here] + LOWER] = 1.0
            made.scatter[here] += (RESISTS_BACK * self.recovers_v) ** 2
        for name, fall_v in FALLS_V.items():
            here = rows.at(name, *inside)
            if name == "bleed-stuck" and self.state == "asleep":
                continue
            fall = min(fall_v * self.seconds / DAY_S, 0.6 * case.rest_v)
            made.more[here] -= fall
            made.scatter[here] += (0.4 * fall) ** 2
        joints = range(first, last)
        if joints:
            here = rows.at("joint-resistive", *joints)
            self._bad(made, "joint-resistive", here, -self.flows[here])
            broken = rows.at("joint-broken", *joints)
            made.nothing[broken], made.jumps[broken] = 0.65, 0.35
        return made

    def pack(self) -> ExpectedReading:
        """Before the BMS."""
        return self.groups(1, self.case.series)

    def terminals(self) -> ExpectedReading:
        """At the plug of the pack."""
        case, rows = self.case, self.rows
        made = self.pack()
        made.line[:, 1] -= self.flows * 3.0 * case.part_ohm
        for name in ("fuse-aged", "connector-worn"):
            here = np.flatnonzero(rows.of(name))
            self._bad(made, name, here, -self.flows[here])
        off = 1.0 - self.on
        made.nothing[:] = np.maximum(made.nothing, off)
        leaky, lead, worn = (rows.of(it) for it in ("bms-leaky", "lead-broken", "connector-worn"))
        made.jumps[leaky] = 0.8 if self.state != "load" else 0.45
        made.nothing[leaky] = 0.1 if self.state != "load" else 0.5
        made.nothing[lead], made.jumps[lead] = 0.6, 0.37
        made.jumps[worn] = 0.2 if self.state != "load" else 0.4
        made.nothing[worn] = 0.02
        if self.state == "charge":
            self._blocked(made)
        shorted = rows.of("bms-shorted")
        if self.state == "charge":
            # The charger holds them up, whatever is open.
            made.nothing[:] = np.where(rows.of("charger-dead"), off, 0.01)
            made.jumps[:] = 0.01
        if self.state == "asleep":
            # What sleeps has its output off, more often than not; a switch that is stuck has not.
            made.nothing[:] = np.maximum(made.nothing, 0.6)
            made.nothing[shorted] = 0.02
        return made

    def _blocked(self, made: ExpectedReading) -> None:
        """Where no charge is taken the terminals stand at what the charger shows open."""
        blocked = self.taken < 0.5
        made.line[blocked] = 0.0
        made.more[blocked] = self.case.charger_v
        made.scatter[blocked] = (0.006 * self.case.charger_v) ** 2
        made.nothing[blocked] = 0.02
        made.jumps[blocked] = 0.01
        dead = self.rows.of("charger-dead")
        made.line[dead] = _groups_of(self.case.series)
        made.more[dead], made.scatter[dead] = 0.0, self.case.series * APART_V**2
        for name in ("charger-wrong", "charger-early"):
            self._bad(made, name, np.flatnonzero(self.rows.of(name) & blocked), 1.0)

    def lead(self, number: int) -> ExpectedReading:
        """At the plug, a lead over the most negative end of the pack."""
        case, rows = self.case, self.rows
        made = self.groups(1, number) if number else self._empty(1.2 * case.full_v)
        if not number:
            made.scatter[:] = 1e-6
        self._bad_leads(made, number)
        for shift, at in ((1, number), (-1, number - 1)):
            here = rows.at("tap-swapped", at)
            made.line[here] = _groups_of(number + shift)
            made.more[here], made.scatter[here] = 0.0, (number + 1) * APART_V**2
        return made

    def group(self, number: int) -> ExpectedReading:
        """At the plug, between the leads of one group."""
        rows = self.rows
        made = self.groups(number, number)
        # Leads sit on the positive side of a connection: the one before the group lies in between.
        before = rows.at("joint-resistive", number - 1)
        self._bad(made, "joint-resistive", before, -self.flows[before])
        broken = rows.at("joint-broken", number - 1)
        made.nothing[broken], made.jumps[broken] = 0.65, 0.35
        self._bad_leads(made, number - 1, number)
        for times, at in ((2.0, number), (-1.0, number - 1), (2.0, number - 2)):
            here = rows.at("tap-swapped", at)
            made.line[here] = _groups_of(times)
            made.more[here], made.scatter[here] = 0.0, 2.0 * APART_V**2
        return made

    def _bad_leads(self, made: ExpectedReading, *leads: int) -> None:
        opened, bad = self.rows.at("tap-open", *leads), self.rows.at("tap-corroded", *leads)
        made.nothing[opened], made.jumps[opened] = 0.8, 0.18
        made.jumps[bad], made.nothing[bad] = 1.0 - STEADY, 0.05

    def shown(self, number: int) -> ExpectedReading:
        """What the BMS shows of a group; nothing where it sleeps."""
        case, rows = self.case, self.rows
        made = self.group(number)
        made.scatter[:] += SHOWN_V**2
        self._bad(made, "bms-misreads", rows.at("bms-misreads", number), 1.0)
        made.nothing[:] = np.maximum(made.nothing, 0.02 if case.shows else 0.98)
        made.nothing[rows.of("bms-asleep")] = 0.96
        made.nothing[rows.at("tap-open", number - 1, number)] = 0.35
        made.scatter[rows.at("tap-open", number - 1, number)] += 0.8**2
        if self.state == "asleep":
            made.nothing[:] = 0.95
        return made

    def joint(self, number: int) -> ExpectedReading:
        """Across a series connection."""
        case, rows = self.case, self.rows
        made = self._empty(1.2 * case.charger_v)
        made.line[:, 1] = self.flows * case.joint_ohm
        made.scatter[:] = (0.5 * self.flows * case.joint_ohm) ** 2 + 2e-5**2
        here = rows.at("joint-resistive", number)
        self._bad(made, "joint-resistive", here, self.flows[here])
        if self.state == "load":
            broken = rows.at("joint-broken", number)
            made.line[broken, 0] = case.series
            made.jumps[broken] = 0.3
        return made

    def across(self, part: str) -> ExpectedReading:
        """Across the BMS, the fuse or the connector: what lies over it once something draws."""
        case, rows = self.case, self.rows
        made = self._empty(1.2 * case.charger_v)
        made.line[:, 1] = np.abs(self.flows) * case.part_ohm
        made.scatter[:] = (0.5 * self.flows * case.part_ohm) ** 2 + 2e-4**2
        worn = {"fuse": "fuse-aged", "connector": "connector-worn"}.get(part, "")
        if worn:
            here = np.flatnonzero(rows.of(worn))
            self._bad(made, worn, here, np.abs(self.flows)[here])
        if self.state == "load":
            opens = {"bms": BMS_OPENS, "fuse": ("fuse-open",), "connector": ()}[part]
            for name in opens:
                off = rows.of(name) & (self.on < 0.5)
                made.line[off] = _groups_of(case.series)
                made.scatter[off] = case.series * APART_V**2
        if part == "bms" and self.state == "charge":
            for name in BMS_BLOCKS:
                blocked = rows.of(name) & (self.taken < 0.5)
                made.line[blocked] = _groups_of(-case.series)
                made.more[blocked] = case.charger_v
                made.scatter[blocked] = case.series * APART_V**2 + (0.006 * case.charger_v) ** 2
        if part == "bms":
            made.jumps[rows.of("bms-leaky")] = 0.6
        if part == "connector":
            made.jumps[rows.of("connector-worn")] = 0.15
        return made

    def charger(self) -> ExpectedReading:
        """At the charger's own plug, or at it while it is plugged in."""
        case, rows = self.case, self.rows
        made = self._empty(1.3 * case.charger_v)
        if self.state == "charge":
            made = self.pack()
            self._blocked(made)
        else:
            made.more[:] = case.charger_v
            made.scatter[:] = (0.006 * case.charger_v) ** 2
            for name in ("charger-wrong", "charger-early"):
                self._bad(made, name, np.flatnonzero(rows.of(name)), 1.0)
        dead = rows.of("charger-dead")
        made.nothing[dead] = 0.95 if self.state != "charge" else 0.1
        return made

    def in_ohm(self, part: str, number: int = 0) -> ExpectedReading:
        """A resistance of a part or a series connection, with nothing flowing."""
        case, rows = self.case, self.rows
        usual = case.joint_ohm if part == "joint" else case.part_ohm
        made = self._empty(0.2)
        made.more[:] = usual
        made.scatter[:] = (0.5 * usual) ** 2
        worn = {"fuse": "fuse-aged", "connector": "connector-worn", "joint": "joint-resistive"}
        if part in worn:
            name = worn[part]
            here = rows.at(name, number if part == "joint" else 0)
            self._bad(made, name, here, 1.0)
        if part == "fuse":
            made.nothing[rows.of("fuse-open")] = 0.98
        if part == "joint":
            made.nothing[rows.at("joint-broken", number)] = 0.75
            made.jumps[rows.at("joint-broken", number)] = 0.2
        return made


def _groups_of(count: float) -> Array:
    """The volts of so many sound groups at rest, as a line in the unknown."""
    return np.array([count, *[0.0] * (UNKNOWN - 1)])


def expected_at(
    circuit: FaultyCircuit, kind: str, number: int, in_ohm: bool = False
) -> ExpectedReading:
    """What is expected at a place of a ``kind``, such as group and 3."""
    if in_ohm:
        return circuit.in_ohm(kind, number)
    if kind in ("terminals", "pack", "charger"):
        made: ExpectedReading = getattr(circuit, kind)()
        return made
    if kind in ("bms", "fuse", "connector"):
        return circuit.across(kind)
    if kind == "group":
        return circuit.group(number)
    if kind == "tap":
        return circuit.lead(number)
    return circuit.shown(number) if kind == "shown" else circuit.joint(number)
