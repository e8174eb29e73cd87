"""What binds the dealing, as people write it: cells that have their place, cells kept apart."""

from __future__ import annotations

import re
from collections.abc import Sequence

from lumvak.core.document.hand import PLACE, Placed
from lumvak.core.said import phrase
from lumvak.core.units import QuantityError

_PIN = re.compile(r"(\d{1,6})\s*=\s*(g\d{1,3}c\d{1,3})", re.IGNORECASE)
_SETS = re.compile(r"[\s;]+")


def pins_read(text: str) -> tuple[Placed, ...]:
    """Cells with their places from ``57=g3c2 58=g3c3``; raises QuantityError."""
    found = []
    for item in re.sub(r"\s*=\s*", "=", text).replace(";", " ").replace(",", " ").split():
        match = _PIN.fullmatch(item)
        if match is None or not re.fullmatch(PLACE, match[2].lower()) or int(match[1]) < 1:
            raise QuantityError(phrase("“{}” is no cell and place; write such as 57=g3c2", item))
        found.append(Placed(number=int(match[1]), cell=match[2].lower()))
    return tuple(found)


def pins_said(pins: Sequence[Placed]) -> str:
    """Cells with their places as they are written."""
    return " ".join(f"{item.number}={item.cell}" for item in pins)


def apart_read(text: str) -> tuple[tuple[int, ...], ...]:
    """Sets of cells from ``12,15 3,4,5``; raises QuantityError."""
    found = []
    for item in _SETS.split(re.sub(r"\s*,\s*", ",", text.strip())):
        if not item:
            continue
        numbers = item.split(",")
        if len(numbers) < 2 or not all(number.isdigit() and number != "0" for number in numbers):
            raise QuantityError(phrase("“{}” are no two cells or more; write such as 12,15", item))
        found.append(tuple(int(number) for number in numbers))
    return tuple(found)


def apart_said(sets: Sequence[Sequence[int]]) -> str:
    """Sets of cells as they are written."""
    return " ".join(",".join(map(str, item)) for item in sets)
