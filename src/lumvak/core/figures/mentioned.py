"""Figures that a sentence mentions: which quantity in it is which figure."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from lumvak.core.figures.figure import Figure, walk
from lumvak.core.said import Quantity
from lumvak.core.spelling import TextPlace

# Units that say the same quantity, in the first of them.
SAME: Mapping[str, tuple[str, float]] = {
    "mV": ("V", 1e-3), "mA": ("A", 1e-3), "mΩ": ("ohm", 1e-3), "Ω": ("ohm", 1.0),
    "s": ("h", 1.0 / 3600.0), "min": ("h", 1.0 / 60.0),
}  # fmt: skip
Alike = tuple[str, str]


class Mention(Struct, frozen=True):
    """Characters ``start`` to ``end`` of a text, and the key of the figure that stands there."""

    start: int
    end: int
    key: str


def mentioned(
    places: Sequence[TextPlace], figures: Mapping[str, Figure], about: Sequence[str]
) -> tuple[Mention, ...]:
    """Which quantities of a sentence are figures; it is ``about`` some of them.

    A quantity says itself which figure it is, or has the value of one of ``about`` or of what they
    were made from, nearest first, or that of one figure alone among all.
    """
    if not places:
        return ()
    own: dict[Alike, str] = {}
    for figure in walk([figures[key] for key in about if key in figures]):
        if (alike := _alike(figure.value, figure.unit)) is not None:
            own.setdefault(alike, figure.key)
    return tuple(
        Mention(place.start, place.end, key)
        for place in places
        if (key := _key(place.quantity, figures, own))
    )


def _key(quantity: Quantity, figures: Mapping[str, Figure], own: Mapping[Alike, str]) -> str:
    if quantity.figure in figures:
        return quantity.figure
    alike = _alike(quantity.value, quantity.unit)
    if alike is None:
        return ""
    if alike in own:
        return own[alike]
    others = [key for key, figure in figures.items() if _alike(figure.value, figure.unit) == alike]
    return others[0] if len(others) == 1 else ""


def _alike(value: object, unit: str) -> Alike | None:
    """A quantity as it is compared, to three figures; ``None`` where it says too little."""
    if unit in ("", "money") or isinstance(value, bool) or not isinstance(value, float | int):
        return None
    if not math.isfinite(value):
        return None
    same, factor = SAME.get(unit, (unit, 1.0))
    return same, f"{value * factor:.3g}"
