"""Readings that cannot be meant as they were typed: how many, millivolts, the wrong sign."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from lumvak.core.taps.readings import Case
from lumvak.core.units import say

# A total is taken for millivolts within so much of what is expected.
NEAR, MILLIVOLTS = 0.35, 100.0


class Misread(Struct, frozen=True):
    """What is wrong with the reading of a lead, and what was meant; ``None`` where nobody knows."""

    lead: int
    text: str
    meant_v: float | None = None


def counted(readings: Sequence[float], groups: int) -> str:
    """What is wrong with how many readings there are; empty where each lead has one."""
    leads = groups + 1
    if len(readings) == leads:
        return ""
    if len(readings) == groups:
        return (
            f"{groups} readings for {leads} leads: {groups} groups have {leads}, the first on the "
            "most negative joint; accepted: one for each, 0 for the first"
        )
    return f"{len(readings)} readings for {leads} leads; accepted: one for each, “open” for none"


def misread(case: Case) -> Iterator[Misread]:
    """Readings by their lead that cannot be meant so."""
    levels = case.level.tolist()
    for lead, read in enumerate(case.totals.tolist()):
        if (found := misread_one(lead, read, levels)) is not None:
            yield found


def misread_one(lead: int, read: float, levels: Sequence[float]) -> Misread | None:
    """What is wrong with what was ``read`` from main minus to a lead, in V.

    ``levels`` are the volts of all joints, (n + 1,). ``None`` where it may be meant so.
    """
    if math.isnan(read):
        return None
    wanted, whole = levels[lead], levels[-1]
    if wanted > 0.5 and abs(read / 1000.0 - wanted) <= NEAR * wanted and read > MILLIVOLTS:
        return Misread(
            lead, f"lead {lead} reads {say(read, 'V')}; millivolts may be meant: "
            f"{say(read / 1000.0, 'V')}", read / 1000.0,
        )  # fmt: skip
    if read < -0.1:
        return Misread(
            lead, f"lead {lead} reads {say(read, 'V')}; accepted: 0 or more, with the black "
            "probe on the most negative joint", -read if read < -0.5 else None,
        )  # fmt: skip
    if read > 2.0 * whole + 5.0:
        return Misread(
            lead, f"lead {lead} reads {say(read, 'V')}, the whole pack has {say(whole, 'V')}"
        )  # fmt: skip
    return None
