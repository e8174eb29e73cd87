"""Reading and writing quantities as builders spell them: the edge between text and numbers."""

from __future__ import annotations

import math
import re

from msgspec import Struct

from lumvak.core.said import Text, listed, phrase, say_exact
from lumvak.core.spelling import (
    AWG_LIMITS,
    DAYS_A_MONTH,
    MINUS,
    PLAIN,
    Refused,
    Spelling,
    awg_area_mm2,
    from_shown,
    local,
    shown_in,
    spelled,
)

# What a message quotes is shown to so many signs.
QUOTED = 60
_QUOTE = re.compile(rf"“([^”]{{{QUOTED + 1},}})(?:”|$)")


def quoted_briefly(message: str) -> str:
    """A message with what it quotes cut to QUOTED signs, however long it was."""
    return _QUOTE.sub(lambda match: f"“{match[1][:QUOTED]}…”", message)


class QuantityError(Refused):
    """A text that cannot be read as the quantity asked for; its message says what would be."""

    def __str__(self) -> str:
        """What is said, plainly; what it quotes is cut."""
        return quoted_briefly(super().__str__())


class Kind(Struct, frozen=True):
    """A kind of quantity: its canonical unit, the spellings it takes and how to name it."""

    name: str
    unit: str
    factors: tuple[tuple[str, float], ...]
    example: str


def _kind(name: str, unit: str, example: str, **factors: float) -> Kind:
    return Kind(name, unit, tuple(factors.items()), example)


VOLTAGE = _kind("a voltage", "V", "36 V", V=1, mV=1e-3, kV=1e3)
CURRENT = _kind("a current", "A", "18 A", A=1, mA=1e-3)
POWER = _kind("a power", "W", "600 W", W=1, kW=1e3)
CAPACITY = _kind("a capacity", "Ah", "15 Ah", Ah=1, mAh=1e-3)
ENERGY = _kind("an energy", "Wh", "500 Wh", Wh=1, kWh=1e3)
HOURS = _kind("a time", "h", "1 h 20", h=1, min=1 / 60, s=1 / 3600)
SECONDS = _kind("a time", "s", "8 s", s=1, ms=1e-3, min=60, h=3600)
DISTANCE = _kind("a distance", "km", "30 km", km=1, m=1e-3, mi=1.609344)
CONSUMPTION = Kind("a consumption", "Wh/km", (("Wh/km", 1), ("Wh/mi", 1 / 1.609344)), "12 Wh/km")
TEMPERATURE = Kind("a temperature", "°C", (("°C", 1), ("C", 1), ("°F", 1), ("F", 1)), "25 °C")
KELVIN = _kind("a temperature difference", "K", "20 K", K=1)
KELVIN_PER_WATT = Kind("a thermal resistance", "K/W", (("K/W", 1), ("°C/W", 1)), "60 K/W")
LENGTH_MM = Kind(
    "a length",
    "mm",
    (("mm", 1), ("cm", 10), ("m", 1e3), ("µm", 1e-3), ("in", 25.4), ("ft", 304.8)),
    "0.2 mm",
)
LENGTH_M = _kind("a length", "m", "0.5 m", m=1, cm=1e-2, mm=1e-3, ft=0.3048, **{"in": 0.0254})
FRACTION = Kind("a share", "%", (("%", 0.01),), "88 %")
MILLIVOLT = _kind("a voltage", "mV", "15 mV", mV=1, V=1e3)
CURRENT_DENSITY = Kind("a current density", "A/mm²", (("A/mm²", 1), ("A/mm2", 1)), "8 A/mm²")
AREA = Kind("a wire section", "mm²", (("mm²", 1), ("mm2", 1), ("mm^2", 1)), "4 mm² or AWG 12")
KV = Kind("a motor constant", "rpm/V", (("rpm/V", 1), ("kv", 1)), "11 rpm/V")
MASS = _kind("a mass", "kg", "1.2 kg", kg=1, g=1e-3, lb=0.45359237)
GRAM = _kind("a mass", "g", "68 g", g=1, kg=1e3)
MILLIOHM = Kind("a resistance", "mΩ", (("mΩ", 1), ("mohm", 1), ("Ω", 1e3), ("ohm", 1e3)), "22 mΩ")
OHM = Kind("a resistance", "Ω", (("Ω", 1), ("ohm", 1), ("mΩ", 1e-3), ("kΩ", 1e3)), "22 Ω")
MILLIAMP = _kind("a current", "mA", "8 mA", mA=1, A=1e3, µA=1e-3, uA=1e-3)
MICROFARAD = _kind("a capacitance", "µF", "1000 µF", µF=1, uF=1, mF=1e3)
DAYS = _kind("a time", "d", "60 d", d=1, days=1, weeks=7, months=DAYS_A_MONTH)
MONEY = Kind("an amount of money", "", (), "250")
RATIO = Kind("a ratio", "", (("x", 1), (":1", 1)), "4.4")
AGE = Kind(
    "an age", "years",
    (("years", 1), ("year", 1), ("a", 1), ("months", 1 / 12), ("month", 1 / 12)), "3 years",
)  # fmt: skip
COUNT = Kind("a whole number", "", (), "10")
# The kind of a number by the unit that it is stored in; one without a unit is a ratio.
BY_UNIT = {
    kind.unit: kind
    for kind in (
        VOLTAGE,
        CURRENT,
        POWER,
        CAPACITY,
        ENERGY,
        HOURS,
        SECONDS,
        DISTANCE,
        CONSUMPTION,
        TEMPERATURE,
        KELVIN,
        KELVIN_PER_WATT,
        LENGTH_MM,
        LENGTH_M,
        FRACTION,
        MILLIVOLT,
        CURRENT_DENSITY,
        AREA,
        KV,
        MASS,
        GRAM,
        MILLIOHM,
        OHM,
        MILLIAMP,
        MICROFARAD,
        DAYS,
        AGE,
        RATIO,
    )
} | {"money": MONEY}

# Units as people say them; spaces and hyphens within do not count.
_SAID_AS = {
    "V": "volt volts", "mV": "millivolt millivolts", "A": "amp amps ampere amperes",
    "mA": "milliamp milliamps", "W": "watt watts", "kW": "kilowatt kilowatts",
    "Ah": "amphour amphours", "mAh": "milliamphour milliamphours", "Wh": "watthour watthours",
    "kWh": "kilowatthour kilowatthours", "h": "hour hours hr hrs", "min": "minute minutes mins",
    "s": "second seconds sec secs", "d": "day", "weeks": "week", "months": "month",
    "km": "kilometre kilometres kilometer kilometers", "mi": "mile miles",
    "m": "metre metres meter meters", "cm": "centimetre centimetres centimeter centimeters",
    "mm": "millimetre millimetres millimeter millimeters", "in": 'inch inches "',
    "ft": "foot feet", "%": "percent", "°C": "celsius degc degrees", "°F": "fahrenheit degf",
    "K": "kelvin", "ohm": "ohms", "mohm": "milliohm milliohms",
    "kg": "kilo kilos kilogram kilograms", "g": "gram grams", "lb": "lbs pound pounds",
}  # fmt: skip
_WORDS = {word: sign for sign, words in _SAID_AS.items() for word in words.split()}
# What may stand behind a count of cells.
_COUNTED = ("s", "p", "cells", "groups")

_NUMBER = r"[+\-\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+\-\u2212]?\d+)?"
_ONE = re.compile(rf"\s*({_NUMBER})\s*(.*?)\s*", re.DOTALL)
_AWG = re.compile(r"\s*(?:awg\s*#?\s*(\d{1,2})|(\d{1,2})\s*awg)\s*", re.IGNORECASE)
_HOURS_MINUTES = re.compile(r"\s*(\d+)\s*h\s*(\d{1,2})\s*(?:m|min)?\s*", re.IGNORECASE)
_CLOCK = re.compile(r"\s*(\d+):([0-5]\d)\s*(?:h|min)?\s*", re.IGNORECASE)
_MINUTES_SECONDS = re.compile(r"\s*(\d+)\s*min\s*(\d{1,2})\s*s?\s*", re.IGNORECASE)
# Digits that hold a thousands' sign or a decimal one: nobody can tell.
_THOUSANDS = {
    sign: re.compile(rf"[+\-\u2212]?[1-9]\d{{0,2}}{re.escape(sign)}\d{{3}}") for sign in ".,"
}

# A quantity is typed in so many signs, and is no larger and no nearer to 0 than anybody means.
LONGEST, MOST, LEAST = 80, 1e15, 1e-12
MOST_OF_A_CURRENCY = 4


def _accepts(kind: Kind, spelling: Spelling) -> Text:
    example = local(kind.example, spelling)
    if shown_in(kind.unit, spelling) != kind.unit:
        example = spell(
            _with_suffix(*_split(kind.example), kind.example, kind, spelling), kind, spelling
        )
    if not kind.factors:
        return phrase("write {}, such as {}", kind.name, example)
    spellings = listed(name for name, _ in kind.factors)
    return phrase("write a number in {}, such as {}", spellings, example)


def parse(text: str, kind: Kind, spelling: Spelling = PLAIN) -> float:
    """Read ``text`` as a quantity of ``kind``.

    Parameters: ``text`` as typed (``36V``, ``36,0 V``, ``7000 mAh``, ``1 h 20``, ``AWG 12``; a
    bare number is in the unit in which the kind is said); ``kind`` one of this module's kinds;
    ``spelling`` of who typed it.
    Returns the value in ``kind.unit``.
    Raises QuantityError, saying what would be accepted.
    """
    if len(text) > LONGEST:
        raise QuantityError(
            phrase("“{}…” is too long for {}; {}", text[:20], kind.name, _accepts(kind, spelling))
        )
    value = _read(ungrouped(text), kind, spelling)
    if not math.isfinite(value) or abs(value) > MOST:
        raise QuantityError(
            phrase("“{}” is too large a number; {}", text.strip(), _accepts(kind, spelling))
        )
    if 0.0 < abs(value) < LEAST:
        raise QuantityError(
            phrase("“{}” is too near to 0; {}", text.strip(), _accepts(kind, spelling))
        )
    return value


# A number with its thousands set apart, as sheets and pages print it: by spaces or apostrophes,
# by the sign that is not the decimal one, or by one that stands there more than once.
_GROUPED = tuple(
    re.compile(rf"(\s*[+\-{MINUS}]?)(\d{{1,3}}(?:{part}\d{{3}}){{{times},}})({rest})(?![\d.,])")
    for part, times, rest in (
        ("[ \u00a0\u2009\u202f'’]", 1, r"(?:[.,]\d+)?"),
        (r"\.", 1, r",\d+"),
        (",", 1, r"\.\d+"),
        (r"\.", 2, ""),
        (",", 2, ""),
    )
)


def ungrouped(text: str) -> str:
    """A text without what sets thousands apart in its number, where that can mean nothing else.

    ``1.234,5``, ``1,234.5``, ``1 234,5`` and ``1,234,567`` have one reading each; ``1,234`` alone
    has two, and stays as it is.
    """
    for grouped in _GROUPED:
        if match := grouped.match(text):
            plain = re.sub(r"\D", "", match[2])
            return f"{match[1]}{plain}{match[3]}{text[match.end() :]}"
    return text


def _read(text: str, kind: Kind, spelling: Spelling) -> float:
    if kind is AREA and (match := _AWG.fullmatch(text)):
        awg = int(match[1] or match[2])
        if not AWG_LIMITS[0] <= awg <= AWG_LIMITS[1]:
            raise QuantityError(
                phrase("AWG {} is outside AWG {} to {}", awg, AWG_LIMITS[0], AWG_LIMITS[1])
            )
        return awg_area_mm2(awg)
    if kind in (HOURS, SECONDS):
        if match := _HOURS_MINUTES.fullmatch(text):
            seconds = int(match[1]) * 3600 + int(match[2]) * 60
            return seconds / 3600 if kind is HOURS else float(seconds)
        if match := _MINUTES_SECONDS.fullmatch(text):
            seconds = int(match[1]) * 60 + int(match[2])
            return seconds / 3600 if kind is HOURS else float(seconds)
        # A clock's hours and minutes, or minutes and seconds where seconds are asked for.
        if match := _CLOCK.fullmatch(text):
            return (int(match[1]) * 60.0 + int(match[2])) / (60.0 if kind is HOURS else 1.0)
    match = _ONE.fullmatch(text)
    if match is None:
        raise QuantityError(
            phrase("“{}” is not {}; {}", text.strip(), kind.name, _accepts(kind, spelling))
        )
    own, other = ",." if spelling.comma else ".,"
    if _THOUSANDS[other].fullmatch(match[1]):
        could = phrase("{} or {}", match[1].replace(other, own), match[1].replace(other, ""))
        raise QuantityError(phrase("“{}” could be {}; write one", match[1], could))
    return _with_suffix(*_split(text), text, kind, spelling)


def _split(text: str) -> tuple[float, str]:
    """The number and the unit of a text that is a number and a unit."""
    match = _ONE.fullmatch(text)
    assert match is not None
    return float(match[1].replace(",", ".").replace(MINUS, "-")), match[2]


def _with_suffix(value: float, suffix: str, text: str, kind: Kind, spelling: Spelling) -> float:
    if kind is COUNT:
        said = suffix.lower() in ("", *_COUNTED)
        if not said or not math.isfinite(value) or value != int(value):
            raise QuantityError(
                phrase("“{}” is not {}; {}", text.strip(), kind.name, _accepts(kind, spelling))
            )
        return value
    if not suffix:
        if kind is FRACTION:
            return value / 100.0 if abs(value) > 1.0 else value
        return from_shown(value, kind.unit, spelling)
    factors = dict(kind.factors)
    if suffix not in factors:
        folded = {name.lower(): name for name in reversed(factors)}
        plain = suffix.lower().replace(" ", "").replace("-", "").rstrip(".")
        suffix = folded.get(plain, _WORDS.get(plain, suffix))
    if suffix not in factors:
        raise QuantityError(
            phrase(
                "“{}” is not {}: “{}” is no unit of it; {}",
                text.strip(),
                kind.name,
                suffix,
                _accepts(kind, spelling),
            )
        )
    if kind is TEMPERATURE and suffix.endswith("F"):
        return (value - 32.0) / 1.8
    return value * factors[suffix]


def parse_pair(
    text: str, first: Kind, second: Kind, spelling: Spelling = PLAIN
) -> tuple[float, float]:
    """Read ``40A:8s`` as two quantities; raises QuantityError where either is missing or bad."""
    head, colon, tail = text.partition(":")
    if not colon:
        raise QuantityError(
            phrase(
                "“{}” wants two values and a colon, such as {}:{}",
                text,
                first.example.replace(" ", ""),
                second.example.replace(" ", ""),
            )
        )
    return parse(head, first, spelling), parse(tail, second, spelling)


def spell(value: float, kind: Kind, spelling: Spelling = PLAIN) -> str:
    """Spell ``value`` so that ``parse`` reads it back, in as few digits as that takes.

    Exactly in the kind's own unit, and to four figures in inches and feet.
    """
    return spelled(say_exact(value, kind.unit), spelling)
