"""Every cause in every place as rows of arrays, and what each does to switches and to charging."""

from __future__ import annotations

from functools import cached_property, lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.trouble.causes import BY_NAME, CAUSES, SELDOM, TroubleCause

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]


class HypothesisRows(Struct, frozen=True, eq=False, dict=True):
    """Hypotheses (n,): which cause, and where: a group, joint or lead from 1 (leads from 0).

    ``second`` and ``there`` (n,) are those of a second cause beside it, -1 for none.
    """

    series: int
    cause: NDArray[np.intp]
    where: NDArray[np.intp]
    second: NDArray[np.intp]
    there: NDArray[np.intp]
    names: tuple[str, ...]

    @cached_property
    def _masks(self) -> dict[str, Mask]:
        return {
            name: (self.cause == at) | (self.second == at) for at, name in enumerate(self.names)
        }

    @cached_property
    def _places(self) -> dict[tuple[int, int], list[int]]:
        """The rows of each cause in each place."""
        made: dict[tuple[int, int], list[int]] = {}
        for causes, places in ((self.cause, self.where), (self.second, self.there)):
            for row, key in enumerate(zip(causes.tolist(), places.tolist(), strict=True)):
                if key[0] >= 0:
                    made.setdefault(key, []).append(row)
        return made

    @cached_property
    def _numbers(self) -> dict[str, int]:
        return {name: at for at, name in enumerate(self.names)}

    def of(self, name: str) -> Mask:
        """The rows of a cause, by itself or beside another."""
        return self._masks[name]

    def alone(self, name: str) -> Mask:
        """The rows of a cause by itself."""
        return np.asarray((self.cause == self._numbers[name]) & (self.second < 0))

    def at(self, name: str, *places: int) -> list[int]:
        """The rows of a cause in some places; places that there are not are left out."""
        number, known = self._numbers[name], self._places
        return [row for place in places for row in known.get((number, place), ())]

    def column(self, name: str) -> NDArray[np.intp]:
        """(n,) where in the state how bad a cause is stands: 2 as the first, 3 as the second."""
        return self._columns[name]

    @cached_property
    def _columns(self) -> dict[str, NDArray[np.intp]]:
        return {name: np.where(self.second == at, 3, 2) for at, name in enumerate(self.names)}

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self.cause)


# Two that come together, and how much of the trouble they are, in parts of 100 (ours): what is old
# is worn in several places, and what is not protected is run down.
PAIRS: tuple[tuple[str, str, float], ...] = (
    ("group-weak", "connector-worn", 0.8), ("group-weak", "joint-resistive", 0.8),
    ("joint-resistive", "connector-worn", 0.5), ("fuse-aged", "connector-worn", 0.3),
    ("group-leaking", "charger-early", 0.3), ("group-flat", "charger-early", 0.3),
    ("group-flat", "bms-shorted", 0.4),
)  # fmt: skip


def places_in(cause: TroubleCause, series: int) -> list[int]:
    """Where a cause can be in a pack of so many groups."""
    if cause.where == "group":
        return list(range(1, series + 1))
    if cause.where == "joint":
        return list(range(1, series))
    if cause.where == "tap":
        # Two leads are swapped with the next one.
        return list(range(series if cause.name == "tap-swapped" else series + 1))
    return [0]


def places_of_pair(first: str, second: str, series: int) -> list[tuple[int, int]]:
    """Where two that come together can be; a connection is one of those beside the group."""
    ones, others = (places_in(BY_NAME[name], series) for name in (first, second))
    if BY_NAME[second].where == "joint":
        return [(one, it) for one in ones for it in (one - 1, one) if it in others]
    return [(one, it) for one in ones for it in others]


@lru_cache(maxsize=16)
def rows_of(series: int) -> HypothesisRows:
    """All causes in all places of a pack of so many groups, and the likely pairs."""
    names = tuple(it.name for it in CAUSES)
    rows = [
        (at, place, -1, -1) for at, cause in enumerate(CAUSES) for place in places_in(cause, series)
    ]
    for first, second, _ in PAIRS:
        rows += [
            (names.index(first), one, names.index(second), other)
            for one, other in places_of_pair(first, second, series)
        ]
    cause, where, second_, there = np.array(rows).T
    return HypothesisRows(series, cause, where, second=second_, there=there, names=names)


def prior_of(rows: HypothesisRows, complaint: ComplaintName) -> Array:
    """(n,) how likely each is before anything is read: how common × how often complained of so."""
    often = np.array([it.complaints.get(complaint, SELDOM) for it in CAUSES])
    weight = np.array([it.prior for it in CAUSES]) * often
    places = np.array([max(len(places_in(it, rows.series)), 1) for it in CAUSES])
    each = (weight / places)[rows.cause]
    for first, second, prior in PAIRS:
        numbers = rows.names.index(first), rows.names.index(second)
        here = (rows.cause == numbers[0]) & (rows.second == numbers[1])
        if here.any():
            told = 0.5 * (often[numbers[0]] + often[numbers[1]])
            each[here] = prior * told / here.sum()
    return np.asarray(each / each.sum())


# How likely the output conducts: at rest, under load, after a wait without load. Others: always.
CONDUCTS: dict[str, tuple[float, float, float]] = {
    "group-flat": (0.75, 0.35, 0.7), "group-weak": (0.97, 0.65, 0.97),
    "group-shorted": (0.6, 0.4, 0.5), "group-lost-cell": (0.99, 0.85, 0.99),
    "group-leaking": (0.85, 0.6, 0.8), "bleed-stuck": (0.85, 0.65, 0.8),
    "bms-misreads": (0.9, 0.7, 0.9), "joint-resistive": (0.99, 0.8, 0.99),
    "joint-broken": (0.02, 0.02, 0.02), "tap-open": (0.5, 0.45, 0.5),
    "tap-swapped": (0.3, 0.3, 0.3), "tap-corroded": (0.85, 0.75, 0.85),
    "bms-tripped-low": (0.03, 0.02, 0.1), "bms-latched": (0.02, 0.02, 0.93),
    "bms-temperature": (0.05, 0.05, 0.2), "bms-asleep": (0.02, 0.4, 0.05),
    "bms-open": (0.01, 0.01, 0.01), "thermistor-open": (0.45, 0.4, 0.45),
    "fuse-open": (0.0, 0.0, 0.0), "fuse-aged": (0.99, 0.75, 0.99),
    "equipment-over": (0.99, 0.9, 0.99), "precharge-missing": (0.97, 0.7, 0.97),
    "sound": (0.99, 0.98, 0.99),
}  # fmt: skip
# How likely a charge flows. Others: always.
CHARGES: dict[str, float] = {
    "group-flat": 0.85, "group-shorted": 0.5, "joint-broken": 0.02, "tap-open": 0.45,
    "tap-swapped": 0.3, "tap-corroded": 0.75, "bms-tripped-high": 0.04, "bms-temperature": 0.1,
    "bms-misreads": 0.7, "bms-open": 0.95, "thermistor-open": 0.03, "fuse-open": 0.03,
    "charge-fuse-open": 0.0, "charger-dead": 0.0, "charger-wrong": 0.6, "lead-broken": 0.85,
    "charger-early": 0.9,
}  # fmt: skip
# What holds a charge off because of the BMS itself: the rest of the volts lies across its switch.
BMS_BLOCKS = (
    "bms-tripped-high", "bms-temperature", "thermistor-open", "tap-open", "tap-swapped",
    "tap-corroded", "bms-misreads", "group-flat", "group-shorted", "bleed-stuck", "bms-open",
)  # fmt: skip
# A temperature has come back after so long, a latch is let go after so long.
COOL_S, LET_GO_S = 1800.0, 20.0
# What is off because of the BMS itself: the whole pack then lies across its switch.
BMS_OPENS = (
    "bms-tripped-low", "bms-latched", "bms-temperature", "bms-asleep", "bms-open",
    "thermistor-open", "group-flat", "group-shorted", "group-leaking", "bleed-stuck",
    "bms-misreads", "tap-open", "tap-swapped", "tap-corroded", "group-weak", "group-lost-cell",
    "precharge-missing", "equipment-over", "joint-resistive",
)  # fmt: skip


# What is complained of tells of the output by itself: at rest, and under load.
COMPLAINED: dict[ComplaintName, tuple[float, float]] = {
    "dead": (0.0, 0.0), "drops-out": (1.0, 0.45), "no-charge": (1.0, 1.0),
    "charges-short": (1.0, 1.0), "short-range": (1.0, 1.0), "low-group": (1.0, 1.0),
    "warm-spot": (1.0, 1.0), "cuts-out": (1.0, 0.9), "none": (1.0, 1.0),
    "wakes-and-dies": (0.8, 0.4),
}  # fmt: skip
# Nothing that is said of an output is surer than this.
SURE = 0.985


def conducts(
    rows: HypothesisRows, complaint: ComplaintName, state: str, seconds: float, light: bool = False
) -> Array:
    """(n,) how likely the output conducts in a state, after so many seconds of it.

    Under a ``light`` load it does what it does at rest.
    """
    column = 0 if light else {"load": 1, "after": 2}.get(state, 0)
    each = np.ones(rows.count)
    for name, shares in CONDUCTS.items():
        each[rows.of(name)] *= shares[column]
    if complaint in COMPLAINED:
        rest, load = COMPLAINED[complaint]
        told = load if column == 1 else rest
        # A fault that opens the output by itself does so whatever is complained of.
        each = np.where(each > 0.1, np.full(rows.count, told), each)
        each[rows.alone("joint-resistive") | rows.of("sound")] = max(told, 0.1)
    each = np.clip(each, 1.0 - SURE, SURE)
    if state == "after":
        if seconds >= LET_GO_S:
            each[rows.of("bms-latched")] = CONDUCTS["bms-latched"][2]
        if seconds >= COOL_S:
            each[rows.of("bms-temperature")] = 0.9
    if state == "charge":
        # A charger wakes what sleeps, and lets go what holds.
        for name in ("bms-latched", "bms-asleep", "bms-tripped-low"):
            each[rows.of(name)] = 0.95
    return each


def takes_charge(rows: HypothesisRows, complaint: ComplaintName) -> Array:
    """(n,) how likely a charge flows."""
    each = np.ones(rows.count)
    for name, share in CHARGES.items():
        each[rows.of(name)] *= share
    if complaint == "no-charge":
        # It does not, whatever the cause.
        each = np.minimum(each, 0.03)
    elif complaint not in ("dead", "since-repair"):
        each = np.where(each > 0.1, 1.0, each)
    return np.asarray(np.clip(each, 1.0 - SURE, SURE))
