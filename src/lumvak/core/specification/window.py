"""A window: what a figure of a part must be, at the least and at the most, and what sets it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any, Literal, get_args

from msgspec import Struct

from lumvak.core.document.shopping import PartKey
from lumvak.core.figures.figure import Figure, computed, constant
from lumvak.core.said import Text, phrase, say

Side = Literal["least", "most", "wanted"]
PART_KEYS: tuple[PartKey, ...] = get_args(PartKey)
PART_NAMES: dict[PartKey, str] = {
    "cell": "cell", "series": "series connections", "group": "group strips", "bms": "BMS",
    "fuse": "main fuse", "leads": "main leads", "connector": "connector", "switch": "switch",
    "surge": "surge part", "charge-leads": "charge leads", "charge-fuse": "charge fuse",
    "charger": "charger", "balance-leads": "balance leads", "sensor": "temperature sensor",
    "holder": "holders", "barrier": "barriers and wrap",
}  # fmt: skip
SIDE_WORDS: dict[str, str] = {
    "least": "{}, at least", "most": "{}, at most", "wanted": "{}, wanted",
}  # fmt: skip
SOURCE = "methods 41"
# A current under this is said in mA.
SMALL_A = 0.5
# What a bound may be missed by, as a share of it.
NOISE = 1e-9


class FigureWindow(Struct, frozen=True, eq=False):
    """What one figure of a part must be.

    ``name`` is its field in the catalogue. ``least`` and ``most`` bound it, ``wanted`` is what to
    look for within them; of words it is ``one_of``. Where it holds for a while alone, ``at_s`` is
    for how long; where for one kind of the part alone, ``case`` is which. ``set_by`` is what sets
    the tight side, ``most_by`` the most where that is another thing, ``reason`` why, in a line.
    ``must`` is whether a part outside does not do; else it does, and another is better; so of a
    side that is ``advice``.
    """

    name: str
    label: Text
    unit: str = ""
    least: Figure | None = None
    most: Figure | None = None
    wanted: Figure | None = None
    one_of: tuple[str, ...] = ()
    at_s: float | None = None
    case: str = ""
    set_by: Text = ""
    most_by: Text = ""
    reason: Text = ""
    must: bool = True
    advice: tuple[Side, ...] = ()

    @property
    def bounds(self) -> tuple[float, float]:
        """The least and the most as numbers, infinite where there is none."""
        low = -math.inf if self.least is None else self.least.number
        high = math.inf if self.most is None else self.most.number
        return low, high

    @property
    def open(self) -> bool:
        """Whether anything does."""
        return self.least is None and self.most is None and not self.one_of

    @property
    def empty(self) -> bool:
        """Whether nothing does."""
        low, high = self.bounds
        return low > high * (1.0 + NOISE) + NOISE

    @property
    def tight(self) -> str:
        """Which side is tight: ``least``, ``most``, or ``both`` where there is one value alone.

        Of two sides it is the one that is nearer to what is wanted.
        """
        if self.least is None or self.most is None:
            return "least" if self.least is not None else "most" if self.most is not None else ""
        low, high = self.bounds
        if high - low <= NOISE * max(abs(high), 1.0):
            return "both"
        middle = (low + high) / 2.0 if self.wanted is None else self.wanted.number
        return "least" if middle - low <= high - middle else "most"

    def takes(self, value: float | str) -> bool:
        """Whether a value lies in the window."""
        if isinstance(value, str):
            return not self.one_of or value in self.one_of
        low, high = self.bounds
        under = "least" not in self.advice and value < low - NOISE * max(abs(low), 1.0)
        over = "most" not in self.advice and value > high + NOISE * max(abs(high), 1.0)
        return not under and not over

    @property
    def figures(self) -> tuple[Figure, ...]:
        """The figures of its sides."""
        return tuple(it for it in (self.least, self.most, self.wanted) if it is not None)


def side_said(window: FigureWindow, value: float) -> Text:
    """A ``value`` of a window as a person says it: small currents in mA."""
    small = window.unit == "A" and 0.0 < abs(value) < SMALL_A
    return say(value * 1e3, "mA") if small else say(value, window.unit)


class PartSpec(Struct, frozen=True, eq=False):
    """What to look for in a part: its windows, how many of it, and what speaks against each other.

    ``unit`` is what the quantity counts, empty for pieces. ``needed`` is whether the pack must
    have one.
    """

    key: PartKey
    windows: tuple[FigureWindow, ...]
    quantity: float = 1.0
    unit: str = ""
    needed: bool = True
    note: Text = ""

    @property
    def name(self) -> str:
        """The part in words."""
        return PART_NAMES[self.key]

    @property
    def empty(self) -> tuple[FigureWindow, ...]:
        """The windows that nothing lies in."""
        return tuple(window for window in self.windows if window.must and window.empty)

    def of(self, name: str) -> FigureWindow:
        """The first window of a field; raises KeyError."""
        return next((it for it in self.windows if it.name == name), None) or _missing(name)


def _missing(name: str) -> FigureWindow:
    raise KeyError(name)


class By(Struct, frozen=True):
    """One side of a window before it is a figure: its value, the rule and what it was made from."""

    value: float
    rule: Text
    inputs: tuple[Figure, ...] = ()


def by(value: float, rule: Text, *inputs: Figure) -> By:
    """A side of ``value`` made by ``rule`` from ``inputs``; without any it is usual."""
    return By(value, rule, inputs)


class Maker(Struct, frozen=True):
    """Makes the windows of one part, with their figures."""

    part: PartKey

    def window(
        self,
        name: str,
        label: Text,
        unit: str = "",
        *,
        least: By | None = None,
        most: By | None = None,
        wanted: By | None = None,
        key: str = "",
        **rest: Any,
    ) -> FigureWindow:
        """A window; ``key`` tells it from others of one name, ``rest`` are its other fields."""
        sides = {"least": least, "most": most, "wanted": wanted}
        made: dict[str, Any] = {
            side: self._figure(f"{key or name}.{side}", phrase(SIDE_WORDS[side], label), unit, by)
            for side, by in sides.items()
            if by is not None
        }
        return FigureWindow(name, label, unit, **made, **rest)

    def _figure(self, key: str, label: Text, unit: str, side: By) -> Figure:
        key = f"spec.{self.part}.{key}"
        if not side.inputs:
            return constant(key, label, side.value, unit, side.rule, SOURCE)
        return computed(key, label, side.value, unit, side.rule, SOURCE, *side.inputs)


def named(windows: Sequence[FigureWindow], value_of: dict[str, float | str]) -> tuple[str, ...]:
    """Fields whose values lie outside the windows that must hold; those not given are passed."""
    return tuple(
        window.name
        for window in windows
        if window.must
        and window.at_s is None
        and not window.case
        and window.name in value_of
        and not window.takes(value_of[window.name])
    )
