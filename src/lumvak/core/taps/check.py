"""The readings of a project's balance leads: what each should be, and what all of them say."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.hand import Meter
from lumvak.core.document.taps import BalanceLeads, TapBetween
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.matching.matched import GroupNow
from lumvak.core.said import Text, phrase, say
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Between, Case, TapMeter
from lumvak.core.taps.verdict import TapVerdict, judged

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
WHOLE_V = Rule("taps.whole_v", "Lead {} should read", "V", "all groups below it, summed",
               "methods 30")
GROUP_V = Rule("taps.group_v", "A group has now", "V", "{}", "methods 30")
# fmt: on

Array = NDArray[np.float64]
# How far a group may be from what is taken for it: read, typed for all, or seen from their sum.
READ_V, ALIKE_V = 0.02, 0.05
# What a group may have; less is no step between two joints.
LEAST_V, MOST_V = 1.0, 4.5


class TapCheck(Struct, frozen=True, eq=False):
    """What the leads should read, and what they do.

    ``read`` maps a lead to what was read, NaN for nothing. In ``case`` what was not read yet is NaN
    too; ``verdict`` is there once all were read.
    """

    figures: tuple[Figure, ...]
    read: dict[int, float]
    case: Case
    verdict: TapVerdict | None = None

    @property
    def level_v(self) -> Array:
        """Volts of each joint over the lowest, (n + 1,)."""
        return self.case.level


def check_of(
    leads: BalanceLeads,
    groups: Sequence[GroupNow],
    half_v: float,
    series: int,
    meter: Meter,
    shown_v: Sequence[float] = (),
    first_is_main: bool = False,
) -> TapCheck:
    """The check of a project's balance leads (methods 30).

    ``groups`` are those in hand, as measured; ``shown_v`` what a module or a meter showed last of
    each group, corrected, in V; ``half_v`` what a cell rests at when half full, which is taken
    where nobody says anything. ``first_is_main`` is whether the board has no lead on the lowest
    joint: main minus is that.
    """
    read = {
        item.lead: math.nan if item.volts is None else item.volts
        for item in leads.totals
        if item.lead <= series
    }
    if read and first_is_main:
        read.setdefault(0, 0.0)
    volts, apart, figures = _groups(leads, groups, half_v, series, read, shown_v)
    case = Case(
        volts,
        np.array([read.get(lead, math.nan) for lead in range(series + 1)]),
        meter_of(meter),
        tuple(_between(item) for item in leads.more if _known(item, series)),
        apart,
        first_is_main,
    )
    found = judged(case) if len(read) > series else None
    return TapCheck(figures, read, case, found)


def meter_of(meter: Meter) -> TapMeter:
    """The builder's meter on the range on which totals are read."""
    step = 10.0 ** math.ceil(math.log10(60.0 / meter.counts))
    return TapMeter(meter.percent, float(meter.digits), step)


class _GroupVolts(NamedTuple):
    """Volts of each group (n,), how far they may be off, and the figures of them."""

    volts: Array
    apart_v: float
    figures: tuple[Figure, ...]


def _groups(
    leads: BalanceLeads,
    groups: Sequence[GroupNow],
    half_v: float,
    series: int,
    read: dict[int, float],
    shown_v: Sequence[float],
) -> _GroupVolts:
    """Volts of each group now, how far they may be off, and the figures of the totals."""
    measured = [group.volts for group in groups]
    known: Sequence[float] = [value for value in measured if value is not None]
    rule, source = "where its cells come to rest", "methods 27"
    if len(known) < series:
        known, rule, source = shown_v, "as it was shown last, corrected", "methods 32"
    if len(known) == series:
        volts, apart = np.array(known), READ_V
        made = tuple(
            Figure(
                f"taps.group{place}_v",
                phrase("Group {} now", place),
                value,
                "V",
                rule,
                source,
                origin="measured",
            )
            for place, value in enumerate(known, 1)
        )
    elif leads.group_v is not None:
        volts, apart = np.full(series, leads.group_v), ALIKE_V
        made = (typed("balance_leads.group_v", "A group has now", leads.group_v, "V"),)
    else:
        seen = _step_of(read) if len(read) > series else half_v
        each = seen if LEAST_V < seen < MOST_V else half_v
        volts, apart = np.full(series, each), ALIKE_V
        made = (
            GROUP_V.assumed(
                each,
                rule="the usual step between totals" if each != half_v else "OCV, half full",
            ),
        )
    whole = WHOLE_V.of(float(volts.sum()), *made, label=series)
    return _GroupVolts(volts, apart, (whole,))


def _step_of(read: dict[int, float]) -> float:
    """The usual step in V from one joint to the next, wherever the leads sit."""
    steps = np.diff(np.sort([value for value in read.values() if math.isfinite(value)]))
    whole = steps[steps > LEAST_V]
    return float(np.median(whole)) if len(whole) else 0.0


def end_of(text: str) -> int:
    """An end of a reading as a number, from ``lead 3``, ``joint 3`` or the name of a pole."""
    if text in ("main minus", "main plus"):
        return MAIN_MINUS if text == "main minus" else MAIN_PLUS
    kind, number = text.split()
    return int(number) + (JOINT if kind == "joint" else 0)


def end_kept(end: int) -> str:
    """An end of a reading as the document has it, which ``end_of`` reads."""
    if end >= JOINT:
        return f"joint {end - JOINT}"
    return {MAIN_MINUS: "main minus", MAIN_PLUS: "main plus"}.get(end, f"lead {end}")


def _between(item: TapBetween) -> Between:
    return Between(end_of(item.start), end_of(item.end), item.volts)


def _known(item: TapBetween, series: int) -> bool:
    return all(end < 0 or end % JOINT <= series for end in (end_of(item.start), end_of(item.end)))


def lead_said(check: TapCheck, lead: int) -> Text:
    """What the reading of one lead says by itself; empty where it was not read."""
    volts = check.read.get(lead)
    if volts is None:
        return ""
    if math.isnan(volts):
        return "open"
    near = np.flatnonzero(check.case.at_joint[lead]).tolist()
    if lead in near:
        return "as it should"
    if near:
        return phrase("as tap {}", near[0])
    off = volts - float(check.case.level[lead])
    return phrase(
        "{} over, as no tap" if off > 0 else "{} under, as no tap", say(round(abs(off), 2), "V")
    )
