"""Discharges and pulses read off a data sheet: typed, pasted or traced on its picture."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import SheetCurve, SheetPulse
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.checked import NotAccepted, made
from lumvak.core.said import Text, digits, phrase, say
from lumvak.core.units import QuantityError

Point = tuple[float, float]
# A charge of more than so many times the typical capacity was meant in mAh.
MILLI_FROM = 20.0
HIGHEST_V = 6.0
# No sheet says more, in mAh.
MOST_READ_AH = 1e8
# With fewer on a curve, lag and resistance stand in for each other (methods 25).
ENOUGH_POINTS = 18
MINUS = "\u2212"


class Corner(Struct, frozen=True):
    """A place on a picture, in pixels, where the axes read a charge in Ah and a voltage."""

    x: float
    y: float
    ah: float
    volts: float


def parse_curve(text: str, capacity_ah: float) -> list[Point]:
    """Read lines of charge taken and volts; mAh are known by their size or by the header.

    A first line without two numbers is a header. Raises QuantityError naming the line and what
    would be accepted.
    """
    pairs: list[Point] = []
    milli = False
    for number, line in enumerate(text.splitlines(), start=1):
        # A comma between digits is a decimal sign; one with a gap or a semicolon parts columns.
        found = re.findall(r"[+\-\u2212]?\d+(?:[.,]\d+)?", line)
        milli = milli or "mah" in line.lower()
        if not line.strip() or (len(found) < 2 and number == 1):
            continue
        if len(found) != 2:
            raise QuantityError(
                phrase(
                    "line {}, “{}”: wanted are two numbers, such as 1.25 3.62 for 1.25 Ah taken "
                    "and 3.62 V",
                    number,
                    line.strip()[:60],
                )
            )
        ah, volts = (float(item.replace(",", ".").replace("\u2212", "-")) for item in found)
        if not 0.0 < volts <= HIGHEST_V:
            raise QuantityError(
                phrase(
                    "line {}: {} was given for a cell; accepted: up to {}, the charge taken first "
                    "and the volts after it",
                    number,
                    say(volts, "V"),
                    say(HIGHEST_V, "V"),
                )
            )
        if not abs(ah) <= MOST_READ_AH:
            raise QuantityError(
                phrase(
                    "line {}, “{}”: no cell gives as much; accepted: the charge taken first, in Ah "
                    "or mAh",
                    number,
                    line.strip()[:60],
                )
            )
        pairs.append((ah, volts))
    if not pairs:
        raise QuantityError("nothing to read; wanted are lines of Ah taken and volts")
    if milli or max(ah for ah, _ in pairs) > MILLI_FROM * capacity_ah:
        pairs = [(ah / 1000.0, volts) for ah, volts in pairs]
    return sorted(pairs)


def traced(places: Sequence[Point], one: Corner, other: Corner) -> list[Point]:
    """Points in Ah and V from places clicked on a picture, in pixels, between two known corners.

    The axes lie level on the picture. Places left of no charge count as none; of two at one charge
    the later stays, and what rises is levelled. Raises QuantityError where corners span nothing.
    """
    if abs(one.x - other.x) < 2.0 or abs(one.y - other.y) < 2.0:
        raise QuantityError("the two corners lie on one line; click two that lie across")
    if one.ah == other.ah or one.volts == other.volts:
        raise QuantityError("the two corners read the same; each needs its own Ah and V")
    ah_per_px = (other.ah - one.ah) / (other.x - one.x)
    volts_per_px = (other.volts - one.volts) / (other.y - one.y)
    by_charge = {
        round(max(0.0, one.ah + (x - one.x) * ah_per_px), 4): one.volts + (y - one.y) * volts_per_px
        for x, y in places
    }
    charge = sorted(by_charge)
    level = np.minimum.accumulate([by_charge[at] for at in charge]) if charge else np.zeros(0)
    return [(at, round(float(volts), 4)) for at, volts in zip(charge, level, strict=True)]


def curve_of(amps: float, celsius: float, points: Sequence[Point]) -> SheetCurve:
    """A drawn discharge from its points; raises QuantityError that says what is wrong with them."""
    try:
        return made(SheetCurve, {"current_a": amps, "temperature_c": celsius, "points": points})
    except NotAccepted as error:
        raise QuantityError(error.wrongs[0].sentence) from error


def pulse_of(charge: float, seconds: float, celsius: float, ohm: float) -> SheetPulse:
    """A pulse of a sheet; raises QuantityError that says what is wrong with it."""
    try:
        return made(
            SheetPulse, {"charge": charge, "seconds": seconds, "temperature_c": celsius, "ohm": ohm}
        )
    except NotAccepted as error:
        raise QuantityError(error.wrongs[0].sentence) from error


def curve_said(curve: SheetCurve) -> Text:
    """The current and the temperature of a discharge, in words."""
    return phrase("{}, {}", say(curve.current_a, "A"), say(curve.temperature_c, "°C"))


class CurveTold(NamedTuple):
    """How far a fit is off a curve, and by how much of its charge it ends late."""

    off: Text
    late: Text


def curve_told(behaviour: Behaviour, place: int) -> CurveTold:
    """How far the fit is off a curve, in mV, and by how much of its charge it ends late."""
    fit = behaviour.fit
    if fit is None or place >= len(fit.residual_v):
        return CurveTold("", "")
    return CurveTold(
        phrase("{} mV", digits(1000.0 * fit.residual_v[place], ".0f")),
        phrase("{} %", digits(round(100.0 * fit.end_off[place], 1) + 0.0, "+.1f")),
    )


def fit_told(cell: Cell, behaviour: Behaviour) -> tuple[tuple[Text, Text], ...]:
    """What was found for a cell, or is taken where its sheet draws nothing, as labels and words.

    It is long, for there is a sentence or two for each thing to say.
    """
    fit = behaviour.fit
    found = fit is not None and fit.resistance_fitted
    from_curves = "" if found else ", as its family"
    low = digits(float(behaviour.charge_factor(np.array(0.05))), ".1f")
    cold = digits(float(behaviour.ohm_factor(np.array(0.0))), ".1f")
    told: list[tuple[Text, Text]] = [
        (
            "resistance",
            phrase(
                "{} after 10 s, {} in the end",
                say(behaviour.ten_second_ohm, "ohm"),
                say(behaviour.steady_ohm, "ohm"),
            ),
        ),
        ("at 5 % charge", phrase("{} times that at half{}", low, from_curves)),
        (phrase("at {}", say(0.0, "°C")), phrase("{} times that at {}", cold, say(25.0, "°C"))),
        (
            phrase("lag"),
            phrase(
                "{} s{}: at 1 C {} of the charge is not had",
                digits(behaviour.lag_s, ".0f"),
                from_curves,
                say(behaviour.lag_s / 3600.0, "%"),
            ),
        ),
    ]
    if fit is not None:
        told.append(
            (
                "full to empty, by OCV",
                phrase(
                    "{}; typical {}", say(fit.full_ah, "Ah"), say(cell.capacity_typical_ah, "Ah")
                ),
            )
        )
    fewest = min((len(curve.points) for curve in cell.curves), default=ENOUGH_POINTS)
    if found and fewest < ENOUGH_POINTS:
        told.append(
            (
                "few points",
                phrase(
                    "{} on a curve: lag and resistance may be a factor of two off, charge and "
                    "volts hardly; read {} or more, a third of them in its last tenth",
                    fewest,
                    ENOUGH_POINTS,
                ),
            )
        )
    if behaviour.reach_h > 0.0:
        rate = 1.0 / (behaviour.reach_h * float(behaviour.reach_factor(np.array(0.0))))
        told.append(
            (
                "in the cold",
                phrase(
                    "over {} C at {} part of the charge is out of reach",
                    digits(rate, ".1f"),
                    say(0.0, "°C"),
                ),
            )
        )
    return tuple(told)
