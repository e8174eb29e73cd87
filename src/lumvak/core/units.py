"""Reading and writing quantities as builders spell them: the edge between text and numbers."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache

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


@dataclass(frozen=True, slots=True)
class Kind:
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
    "a length", "mm", (("mm", 1), ("cm", 10), ("m", 1e3), ("µm", 1e-3), ("in", 25.4)), "0.2 mm"
)
LENGTH_M = _kind("a length", "m", "0.5 m", m=1, cm=1e-2, mm=1e-3, ft=0.3048)
FRACTION = Kind("a share", "", (("%", 0.01),), "88 %")
MILLIVOLT = _kind("a voltage", "mV", "15 mV", mV=1, V=1e3)
CURRENT_DENSITY = Kind("a current density", "A/mm²", (("A/mm²", 1), ("A/mm2", 1)), "8 A/mm²")
AREA = Kind("a wire section", "mm²", (("mm²", 1), ("mm2", 1), ("mm^2", 1)), "4 mm² or AWG 12")
KV = Kind("a motor constant", "rpm/V", (("rpm/V", 1), ("kv", 1)), "11 rpm/V")
MASS = _kind("a weight", "kg", "1.2 kg", kg=1, g=1e-3, lb=0.45359237)
GRAM = _kind("a weight", "g", "68 g", g=1, kg=1e3)
MILLIOHM = Kind("a resistance", "mΩ", (("mΩ", 1), ("mohm", 1), ("Ω", 1e3), ("ohm", 1e3)), "22 mΩ")
MILLIAMP = _kind("a current", "mA", "8 mA", mA=1, A=1e3, µA=1e-3, uA=1e-3)
MICROFARAD = _kind("a capacitance", "µF", "1000 µF", µF=1, uF=1, mF=1e3)
DAYS = _kind("a time", "d", "60 d", d=1, days=1, weeks=7, months=30)
MONEY = Kind("an amount of money", "", (), "250")
RATIO = Kind("a ratio", "", (("x", 1), (":1", 1)), "4.4")
COUNT = Kind("a whole number", "", (), "10")

_NUMBER = r"[+\-\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+\-]?\d+)?"
_ONE = re.compile(rf"\s*({_NUMBER})\s*(.*?)\s*", re.DOTALL)
_AWG = re.compile(r"\s*(?:awg\s*#?\s*(\d{1,2})|(\d{1,2})\s*awg)\s*", re.IGNORECASE)
_HOURS_MINUTES = re.compile(r"\s*(\d+)\s*h\s*(\d{1,2})\s*(?:m|min)?\s*", re.IGNORECASE)
_MINUTES_SECONDS = re.compile(r"\s*(\d+)\s*min\s*(\d{1,2})\s*s?\s*", re.IGNORECASE)
_THOUSANDS = re.compile(r"[+\-\u2212]?[1-9]\d{0,2},\d{3}")

AWG_LIMITS = (0, 40)
# A quantity is typed in so many signs, and is no larger and no nearer to 0 than anybody means.
LONGEST, MOST, LEAST = 80, 1e15, 1e-12


def awg_diameter_mm(awg: float) -> float:
    """Diameter in mm of a solid wire of American wire gauge ``awg`` (methods 11, [5])."""
    return float(0.127 * 92.0 ** ((36.0 - awg) / 39.0))


def awg_area_mm2(awg: float) -> float:
    """Section in mm2 of gauge ``awg``: pi/4 d^2 (methods 11, [5])."""
    return math.pi / 4.0 * awg_diameter_mm(awg) ** 2


def gauge_name(area_mm2: float) -> str:
    """Name a wire section: ``AWG 12`` where it is that gauge within 0.5 %, else ``4.00 mm²``."""
    awg = round(36.0 - 39.0 * math.log(math.sqrt(4.0 * area_mm2 / math.pi) / 0.127, 92.0))
    if AWG_LIMITS[0] <= awg <= AWG_LIMITS[1]:
        exact = awg_area_mm2(awg)
        if abs(area_mm2 / exact - 1.0) < 0.005:
            return f"AWG {awg}"
    return say(area_mm2, "mm²")


def _accepts(kind: Kind) -> str:
    if not kind.factors:
        return f"write {kind.name}, such as {kind.example}"
    spellings = ", ".join(name for name, _ in kind.factors)
    return f"write a number in {spellings}, such as {kind.example}"


def parse(text: str, kind: Kind) -> float:
    """Read ``text`` as a quantity of ``kind``.

    Parameters: ``text`` as typed (``36V``, ``36,0 V``, ``7000 mAh``, ``1 h 20``, ``AWG 12``; a
    bare number is in the kind's own unit); ``kind`` one of this module's kinds.
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
    digits, suffix = match[1], match[2]
    if _THOUSANDS.fullmatch(digits):
        plain = digits.replace(",", "")
        raise QuantityError(f"“{digits}” could be {digits.replace(',', '.')} or {plain}; write one")
    value = float(digits.replace(",", ".").replace(MINUS, "-"))
    return _with_suffix(value, suffix, text, kind)


def _with_suffix(value: float, suffix: str, text: str, kind: Kind) -> float:
    if kind is COUNT:
        if suffix or not math.isfinite(value) or value != int(value):
            raise QuantityError(f"“{text.strip()}” is not {kind.name}; {_accepts(kind)}")
        return value
    if not suffix:
        return value / 100.0 if kind is FRACTION and abs(value) > 1.0 else value
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
        text = f"{value:.0f}"
    elif size >= 9.995:
        text = f"{value:.1f}"
    elif size >= 0.9995:
        text = f"{value:.2f}"
    else:
        decimals = min(12, 2 - math.floor(math.log10(size)))
        text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
    return text.replace("-", MINUS)


# Longer than this a time is said in minutes; past the last it goes on and on.
LONG_S, LONGEST_S = 180.0, 9.9e3
DAYS_A_MONTH, DAYS_A_YEAR = 30.44, 365.25
MOST_OF_A_CURRENCY = 4
_currency = ""


def set_currency(text: str) -> None:
    """Name the currency that prices are in, such as ``€``; empty leaves them bare."""
    global _currency  # noqa: PLW0603
    _currency = text.strip()[:MOST_OF_A_CURRENCY]
    say.cache_clear()


def currency() -> str:
    """The currency that prices are in; empty where none was said."""
    return _currency


@lru_cache(maxsize=8192, typed=True)
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
        return f"{percent:.0f} %".replace("-", MINUS) if near else f"{round_figures(percent)} %"
    if unit == "h":
        return say_hours(value)
    if unit == "s":
        return say_seconds(value)
    if unit == "d":
        return say_days(value)
    if unit == "ohm":
        return f"{_bare(round_figures(value * 1e3))} mΩ"
    if unit == "money":
        return f"{value:.2f} {_currency}".rstrip()
    if unit == "money/Wh":
        return f"{value:.2f} {_currency}/Wh"
    if unit == "" and (isinstance(value, int) or value == int(value)):
        return str(int(value)).replace("-", MINUS)
    return f"{_bare(round_figures(value))} {unit}".rstrip()


def say_fixed(value: float | int | str | None, unit: str) -> str:
    """As ``say``, but with zeros kept, so that a number that changes does not jump."""
    said_so = ("%", "h", "s", "d", "money", "money/Wh", "")
    if isinstance(value, float) and math.isfinite(value) and unit not in said_so:
        scale, shown = (1e3, "mΩ") if unit == "ohm" else (1.0, unit)
        return f"{round_figures(value * scale)} {shown}"
    return say(value, unit)


def _bare(digits: str) -> str:
    """Digits without the zeros that end a decimal part."""
    return digits.rstrip("0").rstrip(".") if "." in digits else digits


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
        return f"{seconds * 1e6:.0f} µs"
    return f"{seconds * 1e3:.3g} ms" if seconds < 1.0 else f"{seconds:g} s"


def say_about(seconds: float) -> str:
    """A time in words, as one would say it: two figures."""
    return say_delay(float(f"{seconds:.2g}"))


def spell(value: float, kind: Kind) -> str:
    """Spell ``value`` so that ``parse`` reads it back exactly, in as few digits as that takes."""
    if kind is HOURS:
        minutes = value * 60.0
        if value >= 1.0 and abs(minutes - round(minutes)) < 1e-9:
            whole = round(minutes)
            return f"{whole // 60} h {whole % 60:02d}" if whole % 60 else f"{whole // 60} h"
        if value < 1.0 and abs(minutes - round(minutes)) < 1e-9:
            return f"{round(minutes)} min"
    if kind is FRACTION:
        return f"{value * 100:.6g} %"
    if kind is AREA and gauge_name(value).startswith("AWG"):
        return gauge_name(value)
    text = f"{value:.10g}".replace("-", MINUS)
    return f"{text} {kind.unit}".rstrip()
