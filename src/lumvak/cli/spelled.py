"""What flags take: quantities as people write them, told in words where they cannot be read."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable
from typing import TYPE_CHECKING

from lumvak.core import said, units
from lumvak.core.catalogue.cells import FORMS
from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.said import Text
from lumvak.core.spelling import spoken

if TYPE_CHECKING:
    from lumvak.core.document.loads import DutyStep

# A cell and the group that it has a place in.
PLACE = re.compile(r"(\d+)=g(\d+)(?:c\d+)?")
SIZE_MM = re.compile(r"([0-9]+(?:\.[0-9]+)?)\s*[x×]\s*([0-9]+(?:\.[0-9]+)?)\s*(?:mm)?")


def quantity_of(kind: units.Kind) -> Callable[[str], float]:
    """A reader of one quantity. Raises argparse.ArgumentTypeError."""

    def read(text: str) -> float:
        try:
            return units.parse(text, kind)
        except units.QuantityError as error:
            raise argparse.ArgumentTypeError(str(error)) from error

    # What it reads, for who tells of it.
    read.kind = kind  # type: ignore[attr-defined]
    return read


def pair_of(first: units.Kind, second: units.Kind) -> Callable[[str], tuple[float, float]]:
    """A reader of two quantities with a sign between them. Raises argparse.ArgumentTypeError."""

    def read(text: str) -> tuple[float, float]:
        try:
            return units.parse_pair(text, first, second)
        except units.QuantityError as error:
            raise argparse.ArgumentTypeError(str(error)) from error

    return read


def range_of(text: str) -> tuple[float | None, float]:
    """A coldest and a warmest temperature, in any order, or one for both."""
    spelled = re.sub(r"\s*(?:\.\.|to|\u2026)\s*", ":", text.strip(), count=1)
    if ":" in spelled:
        pair = pair_of(units.TEMPERATURE, units.TEMPERATURE)(spelled)
        return min(pair), max(pair)
    return None, quantity_of(units.TEMPERATURE)(text)


def peak_of(text: str) -> tuple[float, float | None]:
    """A peak current, and for how long where it is said. Raises argparse.ArgumentTypeError."""
    if ":" in text:
        return pair_of(units.CURRENT, units.SECONDS)(text)
    return quantity_of(units.CURRENT)(text), None


def duty_of(text: str) -> tuple[str, tuple[DutyStep, ...]]:
    """Steps that repeat, in A or W: the unit and the steps. Raises argparse.ArgumentTypeError."""
    from lumvak.core.need.duty import parse_duty

    unit = "W" if "w" in text.lower() else "A"
    try:
        return unit, parse_duty(text, unit)
    except units.QuantityError as error:
        raise argparse.ArgumentTypeError(str(error)) from error


def count_of(text: str) -> int:
    """A whole number from 1 up. Raises argparse.ArgumentTypeError."""
    value = int(quantity_of(units.COUNT)(text))
    if value < 1:
        raise argparse.ArgumentTypeError(f"“{text}” is too few; write a whole number from 1 up")
    return value


def forms_of(text: str) -> tuple[str, ...]:
    """Forms of cells, parted by commas. Raises argparse.ArgumentTypeError."""
    forms = tuple(dict.fromkeys(word.strip() for word in text.split(",") if word.strip()))
    if not forms or not set(forms) <= set(FORMS):
        raise argparse.ArgumentTypeError(f"“{text}”: write forms of {', '.join(FORMS)}")
    return forms


def cell_at(text: str) -> tuple[float, float]:
    """A current, and after a colon the cell's temperature. Raises argparse.ArgumentTypeError."""
    if ":" in text:
        return pair_of(units.CURRENT, units.TEMPERATURE)(text)
    return quantity_of(units.CURRENT)(text), ROOM_C


def pin_of(text: str) -> tuple[int, int]:
    """A cell's number and its group from 0, from ``57=g3c2``. Raises argparse.ArgumentTypeError."""
    match = PLACE.fullmatch(text.strip())
    if match is None:
        raise argparse.ArgumentTypeError(f"“{text}” is no cell and place, such as 57=g3c2")
    return int(match[1]), int(match[2]) - 1


def apart_of(text: str) -> list[int]:
    """Numbers of two cells or more, parted by commas. Raises argparse.ArgumentTypeError."""
    try:
        found = [int(item) for item in text.split(",")]
    except ValueError:
        raise argparse.ArgumentTypeError(f"“{text}” are no numbers, such as 12,15") from None
    if len(found) < 2:
        raise argparse.ArgumentTypeError(f"“{text}” is one cell; apart are two or more")
    return found


def seed_of(text: str) -> int:
    """A whole number from 0 up. Raises argparse.ArgumentTypeError."""
    if not (text.isascii() and text.isdigit() and len(text) < 10):
        raise argparse.ArgumentTypeError(f"“{text}” is no whole number from 0 up")
    return int(text)


def seeds_of(text: str) -> range:
    """Seeds such as ``1-20``. Raises argparse.ArgumentTypeError."""
    first, _, last = text.partition("-")
    begin = seed_of(first)
    end = seed_of(last) if last else begin
    if not begin <= end < begin + 100_000:
        raise argparse.ArgumentTypeError(f"“{text}” is no row of seeds such as 1-20")
    return range(begin, end + 1)


def speed_of(text: str) -> float:
    """How many times as fast, from 0 to 1000. Raises argparse.ArgumentTypeError."""
    try:
        value = float(text.replace(",", ".").rstrip("x×"))
    except ValueError:
        value = -1.0
    if not 0.0 <= value <= 1000.0:
        raise argparse.ArgumentTypeError(f"“{text}” is no speed from 0 to 1000")
    return value


def groups_count_of(text: str) -> int:
    """A count of groups or of cells in one. Raises argparse.ArgumentTypeError."""
    value = count_of(text)
    if value > 1000:
        raise argparse.ArgumentTypeError(f"“{text}” is no count from 1 to 1000")
    return value


def seconds_of(text: str) -> float:
    """A time in s up to an hour. Raises argparse.ArgumentTypeError."""
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = -1.0
    if not 0.0 < value <= 3600.0:
        raise argparse.ArgumentTypeError(f"“{text}” is no time in seconds up to 3600")
    return value


def say(value: float | int | Text | None, unit: str) -> str:
    """A value with its unit as text, plainly."""
    return spoken(said.say(value, unit))


def say_hours(hours: float) -> str:
    """A time in h as text."""
    return spoken(said.say_hours(hours))


def size_of(text: str) -> tuple[float, float]:
    """Width and height in mm, as ``100x60mm``; raises ArgumentTypeError."""
    found = SIZE_MM.fullmatch(text.strip())
    if found is None:
        raise argparse.ArgumentTypeError(f"“{text[:20]}” is no size; accepted: such as 100x60mm")
    width, height = (float(it) for it in found.groups())
    if not 15.0 <= min(width, height) <= max(width, height) <= 300.0:
        raise argparse.ArgumentTypeError(f"“{text[:20]}”; accepted: 15 to 300 mm")
    return width, height
