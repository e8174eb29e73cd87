"""The edge between what is said and text: quantities in the units and signs of a reader.

Nothing here is kept: who shows a text holds the ``Spelling`` and, in another language, the
sentences by their templates.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from msgspec import Struct

from lumvak.core.said import LONG_S, Form, Listed, Quantity, Said, Text, small

MINUS = "\u2212"
MM_AN_INCH, M_A_FOOT = 25.4, 0.3048
DAYS_A_MONTH, DAYS_A_YEAR = 30.44, 365.25
AWG_LIMITS = (0, 40)


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


PLAIN = Spelling()
_NO_OTHER: Mapping[str, str] = {}


class Refused(ValueError):
    """What is not taken; ``said`` tells what, where, and what would be."""

    def __init__(self, said: Text) -> None:
        super().__init__(said)
        self.said = said

    def __str__(self) -> str:
        """What is said, plainly."""
        return spoken(self.said)


class TextPlace(Struct, frozen=True):
    """Characters ``start`` to ``end`` of a text, and the quantity that stands there."""

    start: int
    end: int
    quantity: Quantity


def spoken(
    text: Text | int, spelling: Spelling = PLAIN, sentences: Mapping[str, str] = _NO_OTHER
) -> str:
    """The text of what is said; ``sentences`` are templates in another language by our own."""
    if isinstance(text, str):
        return sentences.get(text, text)
    if isinstance(text, Quantity):
        return spelled(text, spelling)
    if isinstance(text, Said):
        values = [spoken(value, spelling, sentences) for value in text.values]
        said = sentences.get(text.template, text.template).format(*values)
        return _begun(said, text.first, ours=not sentences)
    if isinstance(text, Listed):
        items = [spoken(item, spelling, sentences) for item in text.items]
        between, last = (sentences.get(sign, sign) for sign in (text.between, text.last))
        return last.join([between.join(items[:-1]), items[-1]][len(items) < 2 :])
    return str(text)


def placed(
    text: Text | int, spelling: Spelling = PLAIN, sentences: Mapping[str, str] = _NO_OTHER
) -> tuple[str, tuple[TextPlace, ...]]:
    """The text of what is said, and where in it quantities stand, in order."""
    if isinstance(text, Quantity):
        plain = spelled(text, spelling)
        return plain, (TextPlace(0, len(plain), text),)
    if isinstance(text, Said):
        template = sentences.get(text.template, text.template)
        parts = [placed(value, spelling, sentences) for value in text.values]
        plain, places = _filled(template, parts)
        return _begun(plain, text.first, ours=not sentences), places
    if isinstance(text, Listed):
        between, last = (sentences.get(sign, sign) for sign in (text.between, text.last))
        many = len(text.items)
        signs = [*[between] * (many - 2), *[last] * (many > 1), ""]
        template = "".join("{}" + sign.replace("{", "{{") for sign in signs[:many])
        return _filled(template, [placed(item, spelling, sentences) for item in text.items])
    return spoken(text, spelling, sentences), ()


def _filled(
    template: str, parts: list[tuple[str, tuple[TextPlace, ...]]]
) -> tuple[str, tuple[TextPlace, ...]]:
    """A template with its parts in it, by number or in order, and where their places come to."""
    text, places, order = "", list[TextPlace](), 0
    for words, field, _, _ in _pieces(template):
        text += words
        if field is None:
            continue
        part, within = parts[int(field) if field else order]
        order += 1
        places += [
            TextPlace(len(text) + item.start, len(text) + item.end, item.quantity)
            for item in within
        ]
        text += part
    return text, tuple(places)


@lru_cache(4096)
def _pieces(template: str) -> tuple[tuple[str, str | None, str | None, str | None], ...]:
    from string import Formatter

    return tuple(Formatter().parse(template))


def _begun(text: str, first: str, *, ours: bool) -> str:
    """A text with its first letter as asked; a noun of another language may keep its capital."""
    if first == "capital":
        return text[:1].upper() + text[1:]
    return small(text) if first == "small" and ours else text


@lru_cache(8192, typed=True)
def spelled(quantity: Quantity, spelling: Spelling = PLAIN) -> str:
    """A quantity spelled for a reader; ``None`` is an em dash."""
    value, unit, form = quantity.value, quantity.unit, quantity.form
    if form == "unit":
        return shown_in(unit, spelling)
    if isinstance(value, tuple):
        return _sides(value, quantity.digits, spelling)
    if value is None:
        return "—"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if form == "given" and shown_in(unit, spelling) == unit:
        return quantity.digits
    if form == "bound":
        said = _digits(shown(value, unit, spelling), ".6g", spelling)
        return f"{said} {shown_in(unit, spelling)}".rstrip()
    if quantity.digits and form != "given":
        return local(f"{value:{quantity.digits}}".replace("-", MINUS), spelling)
    if not math.isfinite(value):
        return "no limit" if value > 0 else "—"
    return _number(value, unit, form, spelling)


def _number(value: float, unit: str, form: Form, spelling: Spelling) -> str:
    """A finite number in one of the forms."""
    if form == "hours":
        return _hours(value)
    if form in ("delay", "about"):
        return _delay(value if form == "delay" else float(f"{value:.2g}"), spelling)
    if form == "exact":
        return _exact(value, unit, spelling)
    if form == "wire":
        return gauge_name(value, spelling)
    if unit in ("%", "h", "s", "d", "money", "money/Wh"):
        return _by_unit(value, unit, spelling)
    if form == "rounded":
        return figures(value, spelling)
    if form == "fixed" and isinstance(value, float) and unit:
        if unit == "ohm":
            return f"{figures(value * 1e3, spelling)} mΩ"
        said = figures(shown(value, unit, spelling), spelling)
        return f"{said} {shown_in(unit, spelling)}".rstrip()
    if unit == "" and (isinstance(value, int) or value == int(value)):
        return str(int(value)).replace("-", MINUS)
    if unit == "ohm":
        return f"{_bare(figures(value * 1e3, spelling))} mΩ"
    said = _bare(figures(shown(value, unit, spelling), spelling))
    return f"{said} {shown_in(unit, spelling)}".rstrip()


def _by_unit(value: float, unit: str, spelling: Spelling) -> str:
    """A number in a unit that is said in its own way."""
    if unit == "%":
        percent = value * 100.0
        near = abs(percent) >= 10.0 or abs(percent - round(percent)) < 0.05
        return f"{_digits(percent, '.0f', spelling) if near else figures(percent, spelling)} %"
    if unit == "h":
        return _hours(value)
    if unit == "s":
        return _seconds(value, spelling)
    if unit == "d":
        return _days(value, spelling)
    amount = _digits(value, ".2f", spelling)
    if unit == "money":
        return f"{amount} {spelling.currency}".rstrip()
    return f"{amount} {spelling.currency}/Wh"


def shown_in(unit: str, spelling: Spelling = PLAIN) -> str:
    """The unit in which quantities of ``unit`` are said."""
    if spelling.inches and unit in ("mm", "m"):
        return "in" if unit == "mm" else "ft"
    return "°F" if spelling.fahrenheit and unit == "°C" else unit


def shown(value: Any, unit: str, spelling: Spelling = PLAIN) -> Any:
    """A value, or an array of them, of ``unit`` in the unit in which it is said."""
    wanted = shown_in(unit, spelling)
    if wanted == unit:
        return value
    if wanted == "°F":
        return value * 1.8 + 32.0
    return value / (MM_AN_INCH if wanted == "in" else M_A_FOOT)


def from_shown(value: float, unit: str, spelling: Spelling = PLAIN) -> float:
    """The value of ``unit`` that a bare number, a ``value`` as it is said, stands for."""
    wanted = shown_in(unit, spelling)
    if wanted == unit:
        return value
    if wanted == "°F":
        return (value - 32.0) / 1.8
    return value * (MM_AN_INCH if wanted == "in" else M_A_FOOT)


def local(text: str, spelling: Spelling) -> str:
    """Digits with the reader's decimal sign."""
    return text.replace(".", ",") if spelling.comma else text


def _digits(value: float, form: str, spelling: Spelling) -> str:
    return local(f"{value:{form}}".replace("-", MINUS), spelling)


def figures(value: float, spelling: Spelling = PLAIN) -> str:
    """Spell the number ``value`` as a person says it: about three figures, no exponent."""
    size = abs(value)
    if size == 0.0:
        return "0"
    if size >= 99.95:
        return _digits(value, ".0f", spelling)
    if size >= 9.995:
        return _digits(value, ".1f", spelling)
    if size >= 0.9995:
        return _digits(value, ".2f", spelling)
    decimals = min(12, 2 - math.floor(math.log10(size)))
    return _bare(_digits(value, f".{decimals}f", spelling))


def _bare(text: str) -> str:
    """Digits without the zeros that end a decimal part."""
    return text.rstrip("0").rstrip(".,") if "." in text or "," in text else text


def _sides(sides: tuple[float, ...], form: str, spelling: Spelling) -> str:
    """Sides in mm: ``112 × 70 × 65 mm``; in inches to three figures."""
    if not spelling.inches:
        forms = form.split() * len(sides)
        said = (_digits(side, one, spelling) for side, one in zip(sides, forms, strict=False))
        return " × ".join(said) + " mm"
    return " × ".join(figures(shown(side, "mm", spelling), spelling) for side in sides) + " in"


def _hours(hours: float) -> str:
    """``1 h 09``, ``25 min``, ``40 s``."""
    seconds = round(hours * 3600.0)
    if seconds < 60:
        return f"{seconds} s"
    minutes = round(hours * 60.0)
    if minutes < 60:
        return f"{minutes} min"
    return f"{minutes // 60} h {minutes % 60:02d}"


def _seconds(seconds: float, spelling: Spelling) -> str:
    """``15 ms``, ``40 s``, ``25 min``, ``1 h 09``."""
    if seconds != 0.0 and abs(seconds) < 1.0:
        return _delay(float(f"{seconds:.3g}"), spelling)
    if abs(seconds) >= LONG_S:
        return _hours(seconds / 3600.0)
    return f"{_bare(figures(seconds, spelling))} s"


def _days(days: float, spelling: Spelling) -> str:
    """``40 d``, ``7 months``, ``2.2 years``."""
    if days >= 2.0 * DAYS_A_YEAR:
        return f"{_bare(figures(days / DAYS_A_YEAR, spelling))} years"
    if days >= 6.0 * DAYS_A_MONTH:
        return f"{days / DAYS_A_MONTH:.0f} months"
    return f"{_bare(figures(days, spelling))} d"


def _delay(seconds: float, spelling: Spelling) -> str:
    if seconds < 1e-3:
        return f"{_digits(seconds * 1e6, '.0f', spelling)} µs"
    if seconds < 1.0:
        return f"{_digits(seconds * 1e3, '.3g', spelling)} ms"
    return f"{_digits(seconds, 'g', spelling)} s"


def awg_diameter_mm(awg: float) -> float:
    """Diameter in mm of a solid wire of American wire gauge ``awg`` (methods 11, [5])."""
    return float(0.127 * 92.0 ** ((36.0 - awg) / 39.0))


def awg_area_mm2(awg: float) -> float:
    """Section in mm2 of gauge ``awg``: pi/4 d^2 (methods 11, [5])."""
    return math.pi / 4.0 * awg_diameter_mm(awg) ** 2


def gauge_name(area_mm2: float, spelling: Spelling = PLAIN) -> str:
    """Name a wire section: ``AWG 12`` where it is that gauge within 0.5 %, else ``4.00 mm²``.

    In mm² always, where the builder does without gauges.
    """
    awg = round(36.0 - 39.0 * math.log(math.sqrt(4.0 * area_mm2 / math.pi) / 0.127, 92.0))
    if spelling.gauges and AWG_LIMITS[0] <= awg <= AWG_LIMITS[1]:
        exact = awg_area_mm2(awg)
        if abs(area_mm2 / exact - 1.0) < 0.005:
            return f"AWG {awg}"
    return _number(area_mm2, "mm²", "plain", spelling)


def _exact(value: float, unit: str, spelling: Spelling) -> str:
    """As ``parse`` reads it back: exactly in its own unit, to four figures in inches and feet."""
    if unit == "h":
        minutes = value * 60.0
        if value >= 1.0 and abs(minutes - round(minutes)) < 1e-9:
            whole = round(minutes)
            return f"{whole // 60} h {whole % 60:02d}" if whole % 60 else f"{whole // 60} h"
        if value < 1.0 and abs(minutes - round(minutes)) < 1e-9:
            return f"{round(minutes)} min"
    if unit == "%":
        return f"{_digits(value * 100, '.6g', spelling)} %"
    if unit == "mm²" and (name := gauge_name(value, spelling)).startswith("AWG"):
        return name
    wanted = shown_in(unit, spelling)
    form = ".10g" if wanted == unit else ".6g" if wanted == "°F" else ".4g"
    return f"{_digits(shown(value, unit, spelling), form, spelling)} {wanted}".rstrip()
