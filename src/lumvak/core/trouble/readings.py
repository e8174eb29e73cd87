"""Where something can be read and in which state: places, states, values, effort and risk."""

from __future__ import annotations

import re
from typing import Literal

from msgspec import Struct

from lumvak.core.said import phrase
from lumvak.core.spelling import Refused

Value = float | Literal["nothing", "jumps", "alike"] | tuple[float, ...]
PLACE = re.compile(r"(?:(?:group|tap|joint|shown):[1-9]\d{0,2})|tap:0|groups|shown")
# Places that are read group by group, and states in which a current flows.
SWEEPS, FLOWS = ("groups", "shown"), ("load", "charge")
WHOLE = ("terminals", "pack", "bms", "fuse", "connector", "charger")
STATE = re.compile(r"rest|asleep|(load|charge|after):(\d+(?:\.\d+)?)")
# What each place asks of the builder, and its words.
EFFORTS = {
    "terminals": ("meter only", 1.0),
    "charger": ("meter only", 1.0),
    "connector": ("meter only", 1.5),
    "shown": ("meter only", 1.0),
    "group": ("plug in reach", 1.5),
    "groups": ("plug in reach", 2.0),
    "tap": ("plug in reach", 1.5),
    "pack": ("wrapper off", 2.0),
    "bms": ("wrapper off", 2.0),
    "fuse": ("wrapper off", 2.0),
    "joint": ("wrapper off", 3.0),
}
STATES = {"rest": 0.0, "asleep": 0.5, "load": 1.0, "charge": 1.0, "after": 1.5}


class ReadingError(Refused):
    """A place, a state or a value that nothing can be read of."""


class TroubleReading(Struct, frozen=True):
    """One reading: its place and state, and what it showed; ``weight`` under 1 is doubted.

    ``place`` is such as ``terminals`` or ``group:3``; ``groups`` and ``shown`` are all of them, one
    after the other. ``amount`` is amps or seconds of the state. ``value`` is in V, or in ohm where
    ``in_ohm``.
    """

    place: str
    state: str = "rest"
    amount: float = 0.0
    value: Value = "nothing"
    in_ohm: bool = False
    weight: float = 1.0

    @property
    def kind(self) -> str:
        """What kind of place it is."""
        return self.place.partition(":")[0]

    @property
    def number(self) -> int:
        """Which of several, from 1; 0 where there is but one."""
        return int(self.place.partition(":")[2] or 0)

    @property
    def sweeps(self) -> bool:
        """Whether it is of all groups."""
        return self.place in SWEEPS


def effort_of(place: str, state: str) -> tuple[str, float]:
    """What a reading asks for, in words, and how much it weighs."""
    words, weight = EFFORTS[place.partition(":")[0]]
    more = STATES[state]
    if state in FLOWS:
        words = f"{words}, {'load at hand' if state == 'load' else 'charger on'}"
    return words, weight + more


def has_place(place: str, series: int) -> bool:
    """Whether a pack of so many groups has a place."""
    if place in WHOLE or place in SWEEPS:
        return True
    kind, _, number = place.partition(":")
    most = series - 1 if kind == "joint" else series
    return PLACE.fullmatch(place) is not None and int(number) <= most


def check_place(place: str, series: int) -> None:
    """Raise ReadingError where a pack of so many groups has no such place."""
    if not has_place(place, series):
        raise ReadingError(
            phrase(
                "“{}” is no place of {} groups; accepted: terminals, pack, bms, fuse, connector, "
                "charger, groups, shown, group:N, shown:N, tap:N, joint:N",
                place[:40],
                series,
            )
        )


def state_of(text: str) -> tuple[str, float]:
    """A state and its amount from such as ``load:10`` or ``rest``; raises ReadingError."""
    match = STATE.fullmatch(text)
    if match is None:
        raise ReadingError(
            phrase(
                "“{}” is no state; accepted: rest, asleep, load:AMPS, charge:AMPS, after:SECONDS",
                text[:40],
            )
        )
    return (match[1] or text, float(match[2] or 0.0))
