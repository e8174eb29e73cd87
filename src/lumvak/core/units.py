"""Reading and writing quantities as builders spell them: the edge between text and numbers."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Any, TypeVar

from msgspec import Struct
from msgspec.structs import replace

MINUS = "\u2212"
# What a message quotes is shown to so many signs.
QUOTED = 60
_QUOTE = re.compile(rf"“([^”]{{{QUOTED + 1},}})(?:”|$)")


def quoted_briefly(message: str) -> str:
    """A message with what it quotes cut to QUOTED signs, however long it was."""
    return _QUOTE.sub(lambda match: f"“{match[1][:QUOTED]}…”", message)


class QuantityError(ValueError):
    """A text that cannot be read as the quantity asked for; its message says what would be."""

    def __init__(self, message: str) -> None:
        super().__init__(quoted_briefly(message))


class Kind(Struct, frozen=True):
    """A kind of quantity: its canonical unit, the spellings it takes and how to name it."""

    name: str
    unit: str
    factors: tuple[tuple[str, float], ...]
    example: str


def _kind(name: str, unit: str, example: str, **factors: float) -> Kind:
    return Kind(name, unit, tuple(factors.items()), example)


DAYS_A_MONTH, DAYS_A_YEAR = 30.44, 365.25
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
FRACTION = Kind("a share", "", (("%", 0.01),), "88 %")
MILLIVOLT = _kind("a voltage", "mV", "15 mV", mV=1, V=1e3)
CURRENT_DENSITY = Kind("a current density", "A/mm²", (("A/mm²", 1), ("A/mm2", 1)), "8 A/mm²")
AREA = Kind("a wire section", "mm²", (("mm²", 1), ("mm2", 1), ("mm^2", 1)), "4 mm² or AWG 12")
KV = Kind("a motor constant", "rpm/V", (("rpm/V", 1), ("kv", 1)), "11 rpm/V")
MASS = _kind("a weight", "kg", "1.2 kg", kg=1, g=1e-3, lb=0.45359237)
GRAM = _kind("a weight", "g", "68 g", g=1, kg=1e3)
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

_NUMBER = r"[+\-\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+\-\u2212]?\d+)?"
_ONE = re.compile(rf"\s*({_NUMBER})\s*(.*?)\s*", re.DOTALL)
_AWG = re.compile(r"\s*(?:awg\s*#?\s*(\d{1,2})|(\d{1,2})\s*awg)\s*", re.IGNORECASE)
_HOURS_MINUTES = re.compile(r"\s*(\d+)\s*h\s*(\d{1,2})\s*(?:m|min)?\s*", re.IGNORECASE)
_MINUTES_SECONDS = re.compile(r"\s*(\d+)\s*min\s*(\d{1,2})\s*s?\s*", re.IGNORECASE)
# Digits that hold a thousands' sign or a decimal one: nobody can tell.
_THOUSANDS = {
    sign: re.compile(rf"[+\-\u2212]?[1-9]\d{{0,2}}{re.escape(sign)}\d{{3}}") for sign in ".,"
}

AWG_LIMITS = (0, 40)
# A quantity is typed in so many signs, and is no larger and no nearer to 0 than anybody means.
LONGEST, MOST, LEAST = 80, 1e15, 1e-12
MM_AN_INCH, M_A_FOOT = 25.4, 0.3048
MOST_OF_A_CURRENCY = 4


class Spelling(Struct, frozen=True):
    """How a builder has quantities said, and how bare numbers that are typed are read.

    ``inches``: lengths in inches and feet; ``fahrenheit``: temperatures, not differences, in
    degrees Fahrenheit; ``gauges``: wires by AWG where their section is one; ``comma``: the decimal
    sign; ``currency``: what prices are in, such as ``€``, empty where none was said.
    """

    inches: bool = False
    fahrenheit: bool = False
    gauges: bool = True
    comma: bool = False
    currency: str = ""


_spelling = Spelling()
_HOLD_WORDS: list[Callable[[], None]] = []
_Function = TypeVar("_Function", bound=Callable[..., Any])


def keeps_words(most: int) -> Callable[[_Function], _Function]:
    """As ``lru_cache`` of so many results, for functions whose results hold spelled quantities."""

    def keeping(function: _Function) -> _Function:
        kept: Any = lru_cache(most, typed=True)(function)
        _HOLD_WORDS.append(kept.cache_clear)
        return kept  # type: ignore[no-any-return]

    return keeping


def set_spelling(wanted: Spelling) -> None:
    """Spell all quantities so from now on; what was spelled before is not changed by it."""
    global _spelling  # noqa: PLW0603
    if wanted != _spelling:
        _spelling = replace(wanted, currency=wanted.currency.strip()[:MOST_OF_A_CURRENCY])
        for forget in _HOLD_WORDS:
            forget()


def spelling() -> Spelling:
    """How quantities are spelled."""
    return _spelling


def shown_in(unit: str) -> str:
    """The unit in which quantities of ``unit`` are said."""
    if _spelling.inches and unit in ("mm", "m"):
        return "in" if unit == "mm" else "ft"
    return "°F" if _spelling.fahrenheit and unit == "°C" else unit


def shown(value: Any, unit: str) -> Any:
    """A value, or an array of them, of ``unit`` in the unit in which it is said."""
    wanted = shown_in(unit)
    if wanted == unit:
        return value
    if wanted == "°F":
        return value * 1.8 + 32.0
    return value / (MM_AN_INCH if wanted == "in" else M_A_FOOT)


def _from_shown(value: float, unit: str) -> float:
    """The value of ``unit`` that a bare number stands for."""
    wanted = shown_in(unit)
    if wanted == unit:
        return value
    if wanted == "°F":
        return (value - 32.0) / 1.8
    return value * (MM_AN_INCH if wanted == "in" else M_A_FOOT)


def digits(value: float, form: str) -> str:
    """The number ``value`` in a ``form`` such as ``.2f``, with the builder's decimal sign."""
    return _local(f"{value:{form}}".replace("-", MINUS))


def _local(text: str) -> str:
    return text.replace(".", ",") if _spelling.comma else text


def awg_diameter_mm(awg: float) -> float:
    """Diameter in mm of a solid wire of American wire gauge ``awg`` (methods 11, [5])."""
    return float(0.127 * 92.0 ** ((36.0 - awg) / 39.0))


def awg_area_mm2(awg: float) -> float:
    """Section in mm2 of gauge ``awg``: pi/4 d^2 (methods 11, [5])."""
    return math.pi / 4.0 * awg_diameter_mm(awg) ** 2


def gauge_name(area_mm2: float) -> str:
    """Name a wire section: ``AWG 12`` where it is that gauge within 0.5 %, else ``4.00 mm²``.

    In mm² always, where the builder does without gauges.
    """
    awg = round(36.0 - 39.0 * math.log(math.sqrt(4.0 * area_mm2 / math.pi) / 0.127, 92.0))
    if _spelling.gauges and AWG_LIMITS[0] <= awg <= AWG_LIMITS[1]:
        exact = awg_area_mm2(awg)
        if abs(area_mm2 / exact - 1.0) < 0.005:
            return f"AWG {awg}"
    return say(area_mm2, "mm²")


def _accepts(kind: Kind) -> str:
    example = _local(kind.example)
    if shown_in(kind.unit) != kind.unit:
        example = spell(_with_suffix(*_split(kind.example), kind.example, kind), kind)
    if not kind.factors:
        return f"write {kind.name}, such as {example}"
    spellings = ", ".join(name for name, _ in kind.factors)
    return f"write a number in {spellings}, such as {example}"


def parse(text: str, kind: Kind) -> float:
    """Read ``text`` as a quantity of ``kind``.

    Parameters: ``text`` as typed (``36V``, ``36,0 V``, ``7000 mAh``, ``1 h 20``, ``AWG 12``; a
    bare number is in the unit in which the kind is said); ``kind`` one of this module's kinds.
    Returns the value in ``kind.unit``.
    Raises QuantityError, saying what would be accepted.
    """
    if len(text) > LONGEST:
        raise QuantityError(f"“{text[:20]}…” is too long for {kind.name}; {_accepts(kind)}")
    value = _read(text, kind)
    if not math.isfinite(value) or abs(value) > MOST:
        raise QuantityError(f"“{text.strip()}” is too large a number; {_accepts(kind)}")
    if 0.0 < abs(value) < LEAST:
        raise QuantityError(f"“{text.strip()}” is too near to 0; {_accepts(kind)}")
    return value


def _read(text: str, kind: Kind) -> float:
    if kind is AREA and (match := _AWG.fullmatch(text)):
        awg = int(match[1] or match[2])
        if not AWG_LIMITS[0] <= awg <= AWG_LIMITS[1]:
            raise QuantityError(f"AWG {awg} is outside AWG {AWG_LIMITS[0]} to {AWG_LIMITS[1]}")
        return awg_area_mm2(awg)
    if kind in (HOURS, SECONDS):
        if match := _HOURS_MINUTES.fullmatch(text):
            seconds = int(match[1]) * 3600 + int(match[2]) * 60
            return seconds / 3600 if kind is HOURS else float(seconds)
        if match := _MINUTES_SECONDS.fullmatch(text):
            seconds = int(match[1]) * 60 + int(match[2])
            return seconds / 3600 if kind is HOURS else float(seconds)
    match = _ONE.fullmatch(text)
    if match is None:
        raise QuantityError(f"“{text.strip()}” is not {kind.name}; {_accepts(kind)}")
    own, other = ",." if _spelling.comma else ".,"
    if _THOUSANDS[other].fullmatch(match[1]):
        could = f"{match[1].replace(other, own)} or {match[1].replace(other, '')}"
        raise QuantityError(f"“{match[1]}” could be {could}; write one")
    return _with_suffix(*_split(text), text, kind)


def _split(text: str) -> tuple[float, str]:
    """The number and the unit of a text that is a number and a unit."""
    match = _ONE.fullmatch(text)
    assert match is not None
    return float(match[1].replace(",", ".").replace(MINUS, "-")), match[2]


def _with_suffix(value: float, suffix: str, text: str, kind: Kind) -> float:
    if kind is COUNT:
        if suffix or not math.isfinite(value) or value != int(value):
            raise QuantityError(f"“{text.strip()}” is not {kind.name}; {_accepts(kind)}")
        return value
    if not suffix:
        if kind is FRACTION:
            return value / 100.0 if abs(value) > 1.0 else value
        return _from_shown(value, kind.unit)
    factors = dict(kind.factors)
    if suffix not in factors:
        folded = {name.lower(): name for name in reversed(factors)}
        suffix = folded.get(suffix.lower().replace(" ", ""), suffix)
    if suffix not in factors:
        raise QuantityError(
            f"“{text.strip()}” is not {kind.name}: “{suffix}” is no unit of it; {_accepts(kind)}"
        )
    if kind is TEMPERATURE and suffix.endswith("F"):
        return (value - 32.0) / 1.8
    return value * factors[suffix]


def parse_pair(text: str, first: Kind, second: Kind) -> tuple[float, float]:
    """Read ``40A:8s`` as two quantities; raises QuantityError where either is missing or bad."""
    head, colon, tail = text.partition(":")
    if not colon:
        raise QuantityError(
            f"“{text}” wants two values and a colon, such as "
            f"{first.example.replace(' ', '')}:{second.example.replace(' ', '')}"
        )
    return parse(head, first), parse(tail, second)


def round_figures(value: float) -> str:
    """Spell the number ``value`` as a person says it: about three figures, no exponent."""
    size = abs(value)
    if size == 0.0:
        return "0"
    if size >= 99.95:
        return digits(value, ".0f")
    if size >= 9.995:
        return digits(value, ".1f")
    if size >= 0.9995:
        return digits(value, ".2f")
    decimals = min(12, 2 - math.floor(math.log10(size)))
    return _bare(digits(value, f".{decimals}f"))


# Longer than this a time is said in minutes; past the last it goes on and on.
LONG_S, LONGEST_S = 180.0, 9.9e3


@keeps_words(8192)
def say(value: float | int | str | None, unit: str) -> str:
    """Spell a value with its unit for a reader; ``None`` is an em dash."""
    if value is None:
        return "—"
    if isinstance(value, str):
        return value
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float) and not math.isfinite(value):
        return "no limit" if value > 0 else "—"
    if unit == "%":
        percent = value * 100.0
        near = abs(percent) >= 10.0 or abs(percent - round(percent)) < 0.05
        return f"{digits(percent, '.0f') if near else round_figures(percent)} %"
    if unit == "h":
        return say_hours(value)
    if unit == "s":
        return say_seconds(value)
    if unit == "d":
        return say_days(value)
    if unit == "ohm":
        return f"{_bare(round_figures(value * 1e3))} mΩ"
    if unit == "money":
        return f"{digits(value, '.2f')} {_spelling.currency}".rstrip()
    if unit == "money/Wh":
        return f"{digits(value, '.2f')} {_spelling.currency}/Wh"
    if unit == "" and (isinstance(value, int) or value == int(value)):
        return str(int(value)).replace("-", MINUS)
    return f"{_bare(round_figures(shown(value, unit)))} {shown_in(unit)}".rstrip()


def say_fixed(value: float | int | str | None, unit: str) -> str:
    """As ``say``, but with zeros kept, so that a number that changes does not jump."""
    said_so = ("%", "h", "s", "d", "money", "money/Wh", "")
    if isinstance(value, float) and math.isfinite(value) and unit not in said_so:
        if unit == "ohm":
            return f"{round_figures(value * 1e3)} mΩ"
        return f"{round_figures(shown(value, unit))} {shown_in(unit)}"
    return say(value, unit)


def _bare(text: str) -> str:
    """Digits without the zeros that end a decimal part."""
    return text.rstrip("0").rstrip(".,") if "." in text or "," in text else text


def say_sides(sides: Sequence[float], form: str = ".0f") -> str:
    """Sides in mm: ``112 × 70 × 65 mm``, each in a ``form``; in inches to three figures."""
    if shown_in("mm") == "mm":
        return " × ".join(digits(side, form) for side in sides) + " mm"
    return " × ".join(round_figures(shown(side, "mm")) for side in sides) + " in"


def say_hours(hours: float) -> str:
    """Spell a time: ``1 h 09``, ``25 min``, ``40 s``."""
    seconds = round(hours * 3600.0)
    if seconds < 60:
        return f"{seconds} s"
    minutes = round(hours * 60.0)
    if minutes < 60:
        return f"{minutes} min"
    return f"{minutes // 60} h {minutes % 60:02d}"


def say_seconds(seconds: float) -> str:
    """Spell a time given in seconds: ``15 ms``, ``40 s``, ``25 min``, ``1 h 09``."""
    if seconds != 0.0 and abs(seconds) < 1.0:
        return say_delay(float(f"{seconds:.3g}"))
    if abs(seconds) >= LONG_S:
        return say_hours(seconds / 3600.0)
    return f"{_bare(round_figures(seconds))} s"


def say_days(days: float) -> str:
    """Spell a time given in days: ``40 d``, ``7 months``, ``2.2 years``."""
    if days >= 2.0 * DAYS_A_YEAR:
        return f"{_bare(round_figures(days / DAYS_A_YEAR))} years"
    if days >= 6.0 * DAYS_A_MONTH:
        return f"{days / DAYS_A_MONTH:.0f} months"
    return f"{_bare(round_figures(days))} d"


def say_span(first_s: float, last_s: float) -> str:
    """From when to when, in words; what goes on past the times that are looked at has no end."""
    if last_s >= LONGEST_S:
        return f"from {say_about(first_s)} on"
    return f"from {say_about(first_s)} to {say_about(last_s)}"


def say_delay(seconds: float) -> str:
    """A delay in words."""
    if seconds < 1e-3:
        return f"{digits(seconds * 1e6, '.0f')} µs"
    return f"{digits(seconds * 1e3, '.3g')} ms" if seconds < 1.0 else f"{digits(seconds, 'g')} s"


def say_about(seconds: float) -> str:
    """A time in words, as one would say it: two figures."""
    return say_delay(float(f"{seconds:.2g}"))


def spell(value: float, kind: Kind) -> str:
    """Spell ``value`` so that ``parse`` reads it back, in as few digits as that takes.

    Exactly in the kind's own unit, and to four figures in inches and feet.
    """
    if kind is HOURS:
        minutes = value * 60.0
        if value >= 1.0 and abs(minutes - round(minutes)) < 1e-9:
            whole = round(minutes)
            return f"{whole // 60} h {whole % 60:02d}" if whole % 60 else f"{whole // 60} h"
        if value < 1.0 and abs(minutes - round(minutes)) < 1e-9:
            return f"{round(minutes)} min"
    if kind is FRACTION:
        return f"{digits(value * 100, '.6g')} %"
    if kind is AREA and gauge_name(value).startswith("AWG"):
        return gauge_name(value)
    wanted = shown_in(kind.unit)
    form = ".10g" if wanted == kind.unit else ".6g" if wanted == "°F" else ".4g"
    return f"{digits(shown(value, kind.unit), form)} {wanted}".rstrip()
