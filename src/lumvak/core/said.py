"""What the core has to say: sentences as templates and what stands in them, not yet spelled.

A text is made of them at the edge, in the units, signs and language of whoever reads it
(``core.spelling``). A ``Text`` is any of them, or words in which no number stands.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, NoReturn

from msgspec import Struct

# How a quantity is said: as it is; with zeros kept; to three figures; to two; as a delay; as hours;
# so that it is read back; as a wire; as sides; as the name of its unit alone; to six figures; as it
# was given, but in a unit of the reader's own.
Form = Literal[
    "plain", "fixed", "rounded", "about", "delay", "hours", "exact", "wire", "sides", "unit",
    "bound", "given",
]  # fmt: skip


class _Unspelled(Struct, frozen=True):
    def __format__(self, form: str) -> NoReturn:
        raise TypeError("what is said is spelled at the edge, by core.spelling")

    def __str__(self) -> NoReturn:
        raise TypeError("what is said is spelled at the edge, by core.spelling")


class Quantity(_Unspelled, frozen=True):
    """A quantity within a sentence.

    ``value`` in ``unit``, or sides in it, ``None`` where there is none; ``form`` is how it is said;
    ``digits`` is a form of Python's such as ``.2f``, which goes before it, one for each
    side where there are several;
    ``figure`` is the key of the figure that it is, empty where that is looked for by its value.
    """

    value: float | int | tuple[float, ...] | None
    unit: str = ""
    form: Form = "plain"
    digits: str = ""
    figure: str = ""


class Said(_Unspelled, frozen=True):
    """A sentence: a ``template`` with ``{}`` for each of its ``values``.

    ``first`` is what becomes of its first letter where it stands within or before others.
    """

    template: str
    values: tuple[Text | int, ...] = ()
    first: Literal["", "capital", "small"] = ""


class Listed(_Unspelled, frozen=True):
    """Things in a row with ``between`` them, and ``last`` before the last one."""

    items: tuple[Text | int, ...]
    between: str
    last: str


Text = str | Said | Quantity | Listed


def phrase(template: str, *values: Text | int) -> Said:
    """A sentence of a ``template`` and what stands in it, each at its ``{}``."""
    return Said(template, values)


def listed(items: Iterable[Text | int], between: str = ", ", last: str = "") -> Text:
    """Things in a row; ``last`` is before the last one where that differs. Nothing is ``""``."""
    row = tuple(items)
    return Listed(row, between, last or between) if row else ""


def first_of(text: Text) -> Text:
    """The first of things in a row; what is no row is the first itself."""
    return _text(text.items[0]) if isinstance(text, Listed) else text


def _text(part: Text | int) -> Text:
    return phrase("{}", part) if isinstance(part, int) else part


def sentences(*parts: Text) -> Text:
    """Sentences one after the other; those that are empty are left out."""
    return listed([part for part in parts if part != ""], " ")


def capital(text: Text) -> Text:
    """A text with a capital first."""
    return Said("{}", (text,), "capital")


def in_line(text: Text) -> Text:
    """A text as it stands within a line: a small letter first, names and units as they are."""
    return Said("{}", (text,), "small")


def small(text: str) -> str:
    """Words with a small letter first, but for abbreviations."""
    abbreviated = text[1:2].isupper() or text[1:2].isdigit()
    return text if abbreviated else text[:1].lower() + text[1:]


def say(value: float | int | Text | None, unit: str, figure: str = "") -> Text:
    """A value with its unit, words as they are; ``figure`` is the key of the figure that it is."""
    if isinstance(value, str | Said | Quantity | Listed):
        return value
    return Quantity(value, unit, figure=figure)


def digits(value: float, form: str) -> Quantity:
    """The number ``value`` in a ``form`` such as ``.2f``."""
    return Quantity(value, digits=form)


def round_figures(value: float) -> Quantity:
    """The number ``value`` as a person says it: about three figures."""
    return Quantity(value, form="rounded")


def say_about(seconds: float) -> Quantity:
    """A time in s, to two figures."""
    return Quantity(seconds, "s", "about")


def say_delay(seconds: float) -> Quantity:
    """A delay in s."""
    return Quantity(seconds, "s", "delay")


def say_hours(hours: float) -> Quantity:
    """A time in hours and minutes."""
    return Quantity(hours, "h", "hours")


def say_sides(sides: Sequence[float], form: str = ".0f") -> Quantity:
    """Sides in mm, each in a ``form``."""
    return Quantity(tuple(map(float, sides)), "mm", "sides", form)


def say_exact(value: float, unit: str) -> Quantity:
    """A ``value`` in ``unit`` as it is read back, in as few digits as that takes."""
    return Quantity(value, unit, "exact")


def wire_name(area_mm2: float) -> Quantity:
    """A wire section in mm², by its gauge where it has one."""
    return Quantity(area_mm2, "mm²", "wire")


def unit_name(unit: str) -> Quantity:
    """The name of the unit in which quantities of ``unit`` are said."""
    return Quantity(None, unit, "unit")


# Longer than this a time is said in minutes; past the last it goes on and on.
LONG_S, LONGEST_S = 180.0, 9.9e3


def say_span(first_s: float, last_s: float) -> Said:
    """From when to when; what goes on past the times that are looked at has no end."""
    if last_s >= LONGEST_S:
        return phrase("from {} on", say_about(first_s))
    return phrase("from {} to {}", say_about(first_s), say_about(last_s))
