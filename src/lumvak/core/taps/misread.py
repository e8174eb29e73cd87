"""Readings that cannot be meant as they were typed: how many, millivolts, the wrong sign."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from lumvak.core.said import Text, phrase, say
from lumvak.core.taps.readings import Case

# A total is taken for millivolts within so much of what is expected.
NEAR, MILLIVOLTS = 0.35, 100.0


class Misread(Struct, frozen=True):
    """What is wrong with the reading of a lead, and what was meant; ``None`` where nobody knows."""

    lead: int
    text: Text
    meant_v: float | None = None


def counted(readings: Sequence[float], groups: int) -> Text:
    """What is wrong with how many readings there are; empty where each lead has one."""
    leads = groups + 1
    if len(readings) == leads:
        return ""
    if len(readings) == groups:
        return phrase(
            "{} readings for {} leads: {} groups have {}, the first on the most negative "
            "tap; accepted: one for each, 0 for the first",
            groups,
            leads,
            groups,
            leads,
        )
    return phrase(
        "{} readings for {} leads; accepted: one for each, “open” for none", len(readings), leads
    )


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
            lead,
            phrase(
                "lead {} reads {}; millivolts may be meant: {}",
                lead,
                say(read, "V"),
                say(read / 1000.0, "V"),
            ),
            read / 1000.0,
        )
    if read < -0.1:
        return Misread(
            lead,
            phrase(
                "lead {} reads {}; accepted: 0 or more, with the black probe on the most "
                "negative tap",
                lead,
                say(read, "V"),
            ),
            -read if read < -0.5 else None,
        )
    if read > 2.0 * whole + 5.0:
        return Misread(
            lead,
            phrase(
                "lead {} reads {}, the whole pack has {}", lead, say(read, "V"), say(whole, "V")
            ),
        )
    return None
