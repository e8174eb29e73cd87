"""Group voltages corrected, how far apart they are, and which group comes first to either end."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.watch import Calibration, VoltsSet, Watch
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.said import phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
MEAN_V = Rule("watch.mean_v", "Groups, mean", "V", "mean of the last set, corrected", "methods 32")
SPREAD_V = Rule("watch.spread_v", "Groups apart", "V", "group {} less group {}", "methods 32")
# fmt: on

Array = NDArray[np.float64]
STAGE = "taps"
# A module that has drifted by so much since it was last held against a meter is told.
DRIFT_V, USUAL_V = 0.005, 3.7
# Points nearer together than this give no gain.
LEAST_SPAN_V = 0.3


class Correction(Struct, frozen=True):
    """What a module shows brought to what is true: shown × ``gain`` + ``offset_v``.

    ``drift_v`` is how far it is off from its calibration before, at a usual voltage.
    """

    module: str
    first: int
    groups: int
    gain: float
    offset_v: float
    day: str
    drift_v: float | None


class VoltageSet(Struct, frozen=True, eq=False):
    """One set of group voltages, corrected: ``volts`` (n,)."""

    when: str
    volts: Array

    @property
    def mean_v(self) -> float:
        """Mean of all groups."""
        return float(self.volts.mean())

    @property
    def spread_v(self) -> float:
        """Highest less lowest."""
        return float(np.ptp(self.volts))

    @property
    def highest(self) -> int:
        """The group that is first to the top when charged, from 1."""
        return int(np.argmax(self.volts)) + 1

    @property
    def lowest(self) -> int:
        """The group that is first to the bottom, from 1."""
        return int(np.argmin(self.volts)) + 1


class WatchTopic(Struct, frozen=True, eq=False):
    """Group voltages as a topic: sets that fit the pack, corrections, what there is to notice."""

    seen: tuple[VoltageSet, ...] = ()
    corrections: tuple[Correction, ...] = ()
    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()


def watch_topic(watch: Watch, cell: Cell, series: int) -> WatchTopic:
    """What the group voltages of a project say (methods 32).

    Sets of another count than the pack has groups are kept and not looked at.
    """
    if not watch.sets and not watch.calibrations:
        return WatchTopic()
    corrections = corrections_of(watch.calibrations)
    seen = tuple(_corrected(item, corrections) for item in watch.sets if len(item.volts) == series)
    figures = tuple(_figures(seen[-1])) if seen else ()
    findings = tuple(_findings(watch, seen, corrections, cell, series))
    return WatchTopic(seen, corrections, figures, findings)


def corrections_of(points: Sequence[Calibration]) -> tuple[Correction, ...]:
    """The correction of each module by its last day, and how far it drifted since the one before.

    One point gives the offset; of two or more, a straight line is laid through by least squares.
    """
    days: dict[str, dict[str, list[Calibration]]] = {}
    for point in points:
        days.setdefault(point.module, {}).setdefault(point.day, []).append(point)
    found = []
    for module, by_day in days.items():
        ordered = sorted(by_day)
        gain, offset = _line(by_day[ordered[-1]])
        drift = None
        if len(ordered) > 1:
            before_gain, before = _line(by_day[ordered[-2]])
            drift = (gain - before_gain) * USUAL_V + offset - before
        last = by_day[ordered[-1]][-1]
        found.append(
            Correction(
                module,
                last.first,
                groups=last.groups,
                gain=gain,
                offset_v=offset,
                day=ordered[-1],
                drift_v=drift,
            )
        )
    return tuple(found)


def _line(points: Sequence[Calibration]) -> tuple[float, float]:
    shown = np.array([point.shown_v for point in points])
    true = np.array([point.true_v for point in points])
    if np.ptp(shown) < LEAST_SPAN_V:
        return 1.0, float((true - shown).mean())
    gain, offset = np.polyfit(shown, true, 1)
    return float(gain), float(offset)


def _corrected(item: VoltsSet, corrections: Sequence[Correction]) -> VoltageSet:
    volts = np.array(item.volts, dtype=float)
    for one in corrections:
        part = slice(one.first - 1, one.first - 1 + one.groups)
        volts[part] = volts[part] * one.gain + one.offset_v
    return VoltageSet(item.when, volts)


def _figures(last: VoltageSet) -> Iterator[Figure]:
    yield MEAN_V.of(last.mean_v, origin="measured")
    yield SPREAD_V.of(last.spread_v, origin="measured", rule=(last.highest, last.lowest))


def _findings(
    watch: Watch,
    seen: Sequence[VoltageSet],
    corrections: Sequence[Correction],
    cell: Cell,
    series: int,
) -> Iterator[Finding]:
    """It is long, for there is a sentence or two for each thing to say."""
    other = sum(len(item.volts) != series for item in watch.sets)
    if other:
        yield Finding(
            "watch-count",
            "note",
            text=phrase("{} sets of group voltages are of another count", other),
            why=phrase("The pack has {} groups.", series),
            do="They are kept, and not looked at.",
            stage=STAGE,
            figure="watch.spread_v",
        )
    for one in corrections:
        if one.drift_v is not None and abs(one.drift_v) > DRIFT_V:
            yield Finding(
                "watch-drift",
                "warn",
                text=phrase(
                    "{} has drifted by {} since it was last held against a meter",
                    one.module,
                    say(one.drift_v * 1000.0, "mV"),
                ),
                why="What it balances and cuts off by drifts with it.",
                do="Hold it against the meter again, on another day and warm.",
                stage=STAGE,
                figure="watch.spread_v",
            )
    if not seen:
        return
    last = seen[-1]
    low = cell.voltage_empty_v if watch.low_v is None else watch.low_v
    high = cell.voltage_full_v if watch.high_v is None else watch.high_v
    if last.volts.min() < low:
        yield Finding(
            "watch-low",
            "stop",
            text=phrase(
                "Group {} is at {}, under {}",
                last.lowest,
                say(float(last.volts.min()), "V"),
                say(low, "V"),
            ),
            why="It is run down before the others, or has lost charge by itself.",
            do="Stop drawing. Charge it slowly and see whether it keeps it.",
            stage=STAGE,
            figure="watch.mean_v",
        )
    if last.volts.max() > high:
        yield Finding(
            "watch-high",
            "stop",
            text=phrase(
                "Group {} is at {}, over {}",
                last.highest,
                say(float(last.volts.max()), "V"),
                say(high, "V"),
            ),
            why="Charged on it takes harm, and may burn.",
            do="Stop charging.",
            stage=STAGE,
            figure="watch.mean_v",
        )
    if last.spread_v > watch.apart_v:
        yield Finding(
            "watch-apart",
            "warn",
            text=phrase(
                "Groups are {} apart, {} are let",
                say(last.spread_v * 1000.0, "mV"),
                say(watch.apart_v * 1000.0, "mV"),
            ),
            why=phrase(
                "Group {} is first to the top, group {} to the bottom.", last.highest, last.lowest
            ),
            do="See whether it grows; balance, and look for what draws from the low one.",
            stage=STAGE,
            figure="watch.spread_v",
        )
