"""What to look at next: what each field that was not seen would settle, for its effort."""

from __future__ import annotations

from typing import Any, Literal

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.as_found.known import UNCOUNTED_P, known_of
from lumvak.core.as_found.limits import (
    CONNECTOR_A,
    FUSE_A,
    LAYERS,
    LEAD_MM2,
    THICKNESS_MM,
    WIDTH_MM,
    held_for,
    links_of,
)
from lumvak.core.as_found.span import Span
from lumvak.core.as_found.wear import UNKNOWN_YEARS
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.as_found import FIELDS, AsFound, is_seen

Effort = Literal[
    "a question", "outside", "meter only", "through the wrapper", "wrapper off", "a day"
]
# What each effort weighs against what it settles.
WEIGHS: dict[Effort, float] = {
    "a question": 1.0,
    "outside": 1.0,
    "meter only": 2.0,
    "through the wrapper": 3.0,
    "wrapper off": 6.0,
    "a day": 6.0,
}
# How each field is seen, and in what words.
LOOKS: dict[str, tuple[Effort, str]] = {
    "promised_a": ("outside", "what it was sold as"),
    "promised_ah": ("outside", "the charge on its label"),
    "chemistry": ("outside", "its chemistry"),
    "state": ("outside", "whether it is swollen, leaking, wet or burnt"),
    "connector_a": ("outside", "the rating of its connector"),
    "lead_mm2": ("outside", "the section of its leads"),
    "years": ("a question", "its age"),
    "cycles": ("a question", "how often it was charged"),
    "stored": ("a question", "how full it stood mostly"),
    "charger": ("meter only", "what ends its charge"),
    "full_v": ("meter only", "its volts when full"),
    "tap_wires": ("outside", "the leads of its balance plug"),
    "group_v": ("meter only", "the volts of each group"),
    "measured_ah": ("a day", "its charge, measured"),
    "ports": ("outside", "its ports"),
    "form": ("through the wrapper", "the form of its cells"),
    "parallel": ("through the wrapper", "how many cells a group has"),
    "series_cells": ("through the wrapper", "its groups, counted by its cells"),
    "cell": ("wrapper off", "what is printed on its cells"),
    "alike": ("wrapper off", "whether its cells are all alike"),
    "strips": ("wrapper off", "how many strips are on each series connection"),
    "layers": ("wrapper off", "how many layers they have"),
    "thickness_mm": ("wrapper off", "how thick its strips are"),
    "width_mm": ("wrapper off", "how wide its strips are"),
    "metal": ("wrapper off", "what its strips are made of"),
    "leads_leave": ("wrapper off", "where its main leads leave"),
    "bms": ("wrapper off", "whether it has a BMS"),
    "bms_a": ("wrapper off", "the marks of its BMS"),
    "switches": ("wrapper off", "the switches of its BMS"),
    "shunt_mohm": ("wrapper off", "the shunts of its BMS"),
    "sense_leads": ("wrapper off", "the sense leads of its BMS"),
    "bleeds": ("wrapper off", "whether its BMS has bleed resistors"),
    "fuse": ("wrapper off", "whether it has a main fuse"),
    "fuse_a": ("wrapper off", "the rating of its fuse"),
    "held": ("wrapper off", "how its cells are held"),
}


OF_A_BMS = ("bms_a", "switches", "shunt_mohm", "sense_leads", "bleeds", "ports")


class Look(Struct, frozen=True):
    """A field that was not seen: how it is seen, and what that would settle.

    ``closes_a`` and ``closes_ah`` are the shares of the bands of current and charge (of the ratio
    of their ends, as powers) that are likely to close, ``lifts`` whether the verdict waits for it.
    """

    field: str
    words: str
    effort: Effort
    closes_a: float
    closes_ah: float
    lifts: bool

    @property
    def worth(self) -> float:
        """What it settles for its effort."""
        return (self.closes_a + 0.5 * self.closes_ah) / WEIGHS[self.effort]


def _three(span: Span) -> tuple[Any, ...]:
    return span.low, span.value, span.high


def _may_be(field: str, found: AsFound, parts: Catalogue) -> tuple[Any, ...]:
    """Three values that a field may have, the likely one in the middle; none where it sets none."""
    cells = sorted(parts.cells.values(), key=lambda it: it.continuous_a)
    form = found.form
    alike = [it.id for it in cells if form in (None, it.format)] or [it.id for it in cells]
    amps = found.promised_a or 25.0
    choices: dict[str, tuple[Any, ...]] = {
        "cell": (alike[0], alike[len(alike) // 2], alike[-1]) if alike else (),
        "form": ("18650", "21700", "32700"),
        "parallel": tuple(round(it) for it in _three(UNCOUNTED_P)),
        "promised_ah": (5.0, 12.0, 40.0),
        "years": (UNKNOWN_YEARS.low, UNKNOWN_YEARS.value, 10.0),
        "cycles": (20.0, 250.0, 800.0),
        "stored": ("half", "half", "full"),
        "strips": (1, 2, max(3, found.parallel or 4)),
        "layers": tuple(round(it) for it in _three(LAYERS)),
        "thickness_mm": (THICKNESS_MM.low, THICKNESS_MM.value, 0.3),
        "width_mm": (5.0, WIDTH_MM.value, 10.0),
        "metal": ("plated steel", "nickel", "copper"),
        "leads_leave": ("end", "middle", "spread"),
        "bms": ("there", "there", "none"),
        "bms_a": (0.6 * amps, amps, 1.5 * amps),
        "switches": (1, max(1, round(amps / 12.0)), max(2, round(amps / 6.0))),
        "shunt_mohm": (60.0 / amps, 40.0 / amps, 20.0 / amps),
        "fuse": ("there", "there", "none"),
        "fuse_a": (FUSE_A.value / 2.0, FUSE_A.value, FUSE_A.value * 2.0),
        "lead_mm2": (1.5, LEAD_MM2.value, 6.0),
        "connector_a": (15.0, CONNECTOR_A.value, 60.0),
        "measured_ah": (known_of(found, parts).wear.capacity_ah.value,),
        "group_v": ((3.7, 3.7),),
    }
    return choices.get(field, ())


class LookAll(Struct, frozen=True):
    """All that one effort shows at once: what it would close of both bands, as Look has it."""

    effort: Effort
    fields: tuple[str, ...]
    closes_a: float
    closes_ah: float


class _Bands(Struct, frozen=True):
    """How many powers of e the ends of both bands lie apart."""

    amps: float
    ah: float


def _bands(found: AsFound, parts: Catalogue) -> _Bands:
    known = known_of(found, parts)
    return _Bands(held_for(links_of(found, known), 0).powers, known.wear.capacity_ah.powers)


def looks_of(found: AsFound, parts: Catalogue, waits: frozenset[str]) -> tuple[Look, ...]:
    """What was not seen, the most telling for its effort first; ``waits`` hold the verdict."""
    now = _bands(found, parts)
    made = []
    for field in FIELDS:
        if is_seen(found, field) or field not in LOOKS or _idle(field, found):
            continue
        effort, words = LOOKS[field]
        after = [
            _bands(replace(found, **{field: it}), parts) for it in _may_be(field, found, parts)
        ]
        made.append(
            Look(
                field,
                words,
                effort,
                closes_a=_closed(now.amps, [it.amps for it in after]),
                closes_ah=_closed(now.ah, [it.ah for it in after]),
                lifts=field in waits,
            )
        )
    return tuple(sorted(made, key=lambda it: (not it.lifts, -it.worth, WEIGHS[it.effort])))


def _closed(now: float, after: list[float]) -> float:
    """The share of a band that closes, the likely case counted as both others."""
    if not after or now <= 0.0:
        return 0.0
    likely = after[0] if len(after) < 3 else (after[0] + 2.0 * after[1] + after[2]) / 4.0
    return max(0.0, 1.0 - likely / now)


def at_once(found: AsFound, parts: Catalogue, looks: tuple[Look, ...]) -> tuple[LookAll, ...]:
    """What each effort would close where all that it shows turns out as is likely."""
    now = _bands(found, parts)
    made = []
    for effort in WEIGHS:
        fields = tuple(it.field for it in looks if it.effort == effort)
        if not fields:
            continue
        likely: dict[str, Any] = {}
        for field in fields:
            may_be = _may_be(field, found, parts)
            if may_be:
                likely[field] = may_be[len(may_be) // 2]
        after = _bands(replace(found, **likely), parts)
        made.append(
            LookAll(effort, fields, _closed(now.amps, [after.amps]), _closed(now.ah, [after.ah]))
        )
    return tuple(made)


def _idle(field: str, found: AsFound) -> bool:
    """Whether a field says nothing more: of what is not there, or said by another."""
    if field in ("form", "chemistry") and found.cell is not None:
        return True
    if found.bms == "none" and field in OF_A_BMS:
        return True
    return found.fuse == "none" and field == "fuse_a"
