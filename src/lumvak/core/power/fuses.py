"""Fuses: what they hold, when they open, and which one suits (methods 22)."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.power_parts import USUAL_BANDS, BandPoint, Fuse, FuseForm
from lumvak.core.figures.point import Point
from lumvak.core.power.place import JudgedPart, Place, place_of
from lumvak.core.said import Text, phrase, say, say_about
from lumvak.core.time_current import TIMES_S, Array, at_time, band_curves

# Of its rating a fuse is loaded for good; from this temperature on it is derated.
LOADING, REFERENCE_C = 0.8, 25.0
# The least short circuit must be over by then.
SHORT_OPENS_S = 5.0
# A fuse breaks so many times the most that a short circuit gives.
BREAKING_SPARE = 1.25
# What is drawn stays so far under where a recommended fuse may melt.
SPARE = 1.2
# What speaks against a fuse, the nearest misses first.
FAR = ("wire", "melts", "never", "breaking", "voltage", "load")
# Beyond this many seconds an overload is the business of the board, not of the fuse.
FUSE_GUARDS_S = 1000.0


class FuseSetting(Struct, frozen=True, eq=False):
    """What a fuse must do: hold the load, stand the voltage, open before the wire is harmed.

    ``short_a`` is the most that a short circuit gives, ``least_short_a`` the least; ``drawn_a``
    and ``harm_a`` are (T,) over TIMES_S.
    """

    current_a: float
    drawn_a: Array
    harm_a: Array
    full_v: float
    short_a: float
    least_short_a: float
    ambient_c: float
    wire: Text


@lru_cache(maxsize=512)
def _curves(
    band: tuple[tuple[float, float, float | None], ...], rating_a: float, warm: float
) -> tuple[Array, Array]:
    least, most = band_curves(band, rating_a)
    return least * warm, most


def fuse_curves(fuse: Fuse, ambient_c: float) -> tuple[Array, Array]:
    """(T,) least and most melting current of a fuse: the least in the heat, the most cold.

    The arrays are shared and not to be changed.
    """
    return _curves(fuse.points, fuse.rating_a, warm_factor(fuse, ambient_c))


def with_band(
    fuses: Iterable[Fuse], wanted: str | None, band: tuple[BandPoint, ...]
) -> tuple[Fuse, ...]:
    """The fuses, the one named with the melting band that was typed for it."""
    if not band:
        return tuple(fuses)
    return tuple(replace(fuse, band=band) if fuse.id == wanted else fuse for fuse in fuses)


def warm_factor(fuse: Fuse, ambient_c: float) -> float:
    """What is left of a rating at an ambient temperature."""
    return max(0.1, 1.0 - fuse.derate_per_k * max(0.0, ambient_c - REFERENCE_C))


def hold_a(fuse: Fuse, ambient_c: float) -> float:
    """Current in A that a fuse carries for good: 80 % of its rating, less in the heat."""
    return LOADING * warm_factor(fuse, ambient_c) * fuse.rating_a


def judge_fuse(fuse: Fuse, setting: FuseSetting) -> JudgedPart[Fuse]:
    """Judge one fuse: its ratings first, and where they do, when it opens."""
    held = hold_a(fuse, setting.ambient_c)
    reasons = _ratings(fuse, setting, held)
    if not reasons:
        reasons = opens_wrongly(*fuse_curves(fuse, setting.ambient_c), setting)
    return JudgedPart(fuse, tuple(reasons), held / setting.current_a - 1.0)


def opens_wrongly(least: Array, most: Array, setting: FuseSetting) -> list[Point]:
    """Where a fuse opens that should not, or should open and does not.

    ``least`` and ``most`` are its curves, (T,) in A: what it holds over time, and what opens it.
    """
    return [*_melts(least, setting), *_never(most, setting), *_burns(most, setting)]


def too_small(fuse: Fuse, current_a: float, full_v: float, short_a: float, ambient_c: float) -> str:
    """Which of its ratings is too small: ``load``, ``voltage`` or ``breaking``; empty for none.

    A fuse breaks a short circuit with a quarter to spare (methods 22).
    """
    if hold_a(fuse, ambient_c) < current_a - 1e-9:
        return "load"
    if fuse.voltage_dc_v < full_v - 1e-9:
        return "voltage"
    return "" if fuse.breaking_a >= BREAKING_SPARE * short_a else "breaking"


def _too_small(fuse: Fuse, setting: FuseSetting) -> str:
    return too_small(fuse, setting.current_a, setting.full_v, setting.short_a, setting.ambient_c)


def _ratings(fuse: Fuse, setting: FuseSetting, held: float) -> list[Point]:
    """The first of its ratings that is too small; a fuse that is too small needs no more."""
    code = _too_small(fuse, setting)
    if code == "load":
        wanted = setting.current_a / held * fuse.rating_a
        return [
            Point(
                code,
                phrase(
                    "carries {} continuously; {} is drawn",
                    say(held, "A"),
                    say(setting.current_a, "A"),
                ),
                phrase("A fuse of {} or more.", say(wanted, "A")),
            )
        ]
    if code == "voltage":
        return [
            Point(
                code,
                phrase(
                    "is rated {} DC; the pack is {} when full, and an arc would go on burning",
                    say(fuse.voltage_dc_v, "V"),
                    say(setting.full_v, "V"),
                ),
                "A fuse with a higher DC rating.",
            )
        ]
    if code == "breaking":
        return [
            Point(
                code,
                phrase(
                    "breaks {}; a short circuit gives up to {}, and a quarter is in reserve",
                    say(fuse.breaking_a, "A"),
                    say(setting.short_a, "A"),
                ),
                phrase(
                    "A fuse that breaks {} or more; or one for each string or block; or leads of "
                    "{} between the cells and the fuse, which bring the short circuit down.",
                    say(BREAKING_SPARE * setting.short_a, "A"),
                    say(1000.0 * _more_ohm(fuse, setting), "mΩ"),
                ),
            )
        ]
    return []


def _more_ohm(fuse: Fuse, setting: FuseSetting) -> float:
    """Resistance in ohm before a fuse that brings a short circuit down to what it breaks."""
    wanted = setting.full_v * BREAKING_SPARE / fuse.breaking_a
    return wanted - setting.full_v / setting.short_a


def melted_at(least: Array, drawn_a: Array) -> NDArray[np.intp]:
    """Places on TIMES_S where what is drawn may melt a fuse; ``least`` and ``drawn_a`` (T,)."""
    return np.flatnonzero(drawn_a > least * (1.0 + 1e-9))


def burnt_at(passed_a: Array, harm_a: Array) -> NDArray[np.intp]:
    """Places on TIMES_S where what a fuse may let pass harms the wire; both (T,) in A."""
    return np.flatnonzero((passed_a > harm_a) & (TIMES_S <= FUSE_GUARDS_S))


def _melts(least: Array, setting: FuseSetting) -> list[Point]:
    """Where the load, its peak or its start may melt it."""
    over = melted_at(least, setting.drawn_a)
    if not len(over):
        return []
    first = int(over[0])
    return [
        Point(
            "melts",
            phrase(
                "may melt in use: {} for {}, it surely holds {}",
                say(float(setting.drawn_a[first]), "A"),
                say_about(TIMES_S[first]),
                say(float(least[first]), "A"),
            ),
            "A larger or slower fuse.",
        )
    ]


def goes_on(most: Array, least_short_a: float, harm_a: Array) -> bool:
    """Whether the least short circuit need not open a fuse in time, and the wire is harmed by it.

    ``most`` and ``harm_a`` are (T,) over TIMES_S. What a wire carries for good harms nothing while
    the cells run out.
    """
    in_time = at_time(most, SHORT_OPENS_S) <= least_short_a
    return not in_time and least_short_a > float(harm_a[-1])


def _never(most: Array, setting: FuseSetting) -> list[Point]:
    """Where the least short circuit need not open it in time."""
    if not goes_on(most, setting.least_short_a, setting.harm_a):
        return []
    needed = at_time(most, SHORT_OPENS_S)
    return [
        Point(
            "never",
            phrase(
                "may not open in a short circuit: {} is all that the pack gives cold, worn and "
                "nearly empty, and it takes {} to open in {}",
                say(setting.least_short_a, "A"),
                say(needed, "A"),
                say(SHORT_OPENS_S, "s"),
            ),
            "A smaller or quicker fuse.",
        )
    ]


def _burns(most: Array, setting: FuseSetting) -> list[Point]:
    """Where a current that it lets pass harms the wire behind it."""
    passed = np.minimum(most, setting.short_a)
    late = burnt_at(passed, setting.harm_a)
    if not len(late):
        return []
    first = int(late[0])
    return [
        Point(
            "wire",
            phrase(
                "opens too late for {}: it may let {} pass for {}",
                setting.wire,
                say(float(passed[first]), "A"),
                say_about(TIMES_S[first]),
            ),
            "A smaller fuse or a thicker wire.",
        )
    ]


class RatingWindow(Struct, frozen=True):
    """Which ratings in A of a fuse with a band do, and what sets either end.

    ``least_by`` is ``load`` or ``melts``, ``most_by`` is ``wire``, ``never`` or empty: any does.
    ``least_s`` and ``most_s`` are the times in s at which they set it.
    """

    least_a: float
    most_a: float
    least_by: str
    most_by: str
    least_s: float
    most_s: float

    @property
    def empty(self) -> bool:
        """Whether none does."""
        return self.least_a > self.most_a * (1.0 + 1e-9)

    @property
    def width(self) -> float:
        """The most over the least; under 1 where none does."""
        return self.most_a / self.least_a


def rating_window(form: FuseForm, setting: FuseSetting) -> RatingWindow:
    """Ratings of a fuse with the band that is usual for its form that do what is asked.

    Closed, for a band scales with the rating: it holds what is drawn at every time, has opened
    before the wire is harmed up to 1000 s, and in time in the least short circuit (methods 41).
    """
    band, derate = USUAL_BANDS[form]
    points = tuple((point.ratio, point.least_s, point.most_s) for point in band)
    least, most = _curves(points, 1.0, 1.0)
    warm = max(0.1, 1.0 - derate * max(0.0, setting.ambient_c - REFERENCE_C))
    by_load = setting.current_a / (LOADING * warm)
    holds = setting.drawn_a / (least * warm)
    by_peak, peak_s = float(holds.max()), float(TIMES_S[int(holds.argmax())])
    guarded = (TIMES_S <= FUSE_GUARDS_S) & (setting.harm_a < setting.short_a)
    spared = np.where(guarded, setting.harm_a / most, math.inf)
    by_wire, wire_s = float(spared.min()), float(TIMES_S[int(spared.argmin())])
    never = math.inf
    if setting.least_short_a > float(setting.harm_a[-1]):
        never = setting.least_short_a / at_time(most, SHORT_OPENS_S)
    top = min(by_wire, never)
    return RatingWindow(
        max(by_load, by_peak),
        top,
        "load" if by_load >= by_peak else "melts",
        "" if math.isinf(top) else "wire" if by_wire <= never else "never",
        least_s=peak_s,
        most_s=wire_s if by_wire <= never else SHORT_OPENS_S,
    )


class FormWindow(NamedTuple):
    """A form of fuse with its window."""

    form: FuseForm
    window: RatingWindow


def best_form(setting: FuseSetting) -> FormWindow:
    """The form whose window is the widest, or nearest to being one."""
    found = [FormWindow(form, rating_window(form, setting)) for form in USUAL_BANDS]
    return max(found, key=lambda item: item.window.width)


def fuse_place(fuses: Iterable[Fuse], wanted: str | None, setting: FuseSetting) -> Place[Fuse]:
    """All fuses judged; the recommended is the smallest with a fifth to spare, the cheapest.

    They come by rating, then by price: the first with a fifth to spare is the best.
    """

    def spare(fuse: Fuse) -> bool:
        least = fuse_curves(fuse, setting.ambient_c)[0]
        return bool(np.all(least >= SPARE * setting.drawn_a))

    def order(item: JudgedPart[Fuse]) -> tuple[float, ...]:
        rank = FAR.index(item.reasons[0].code) if item.reasons else not spare(item.part)
        return (rank, item.part.rating_a, item.part.price)

    # Fuses of one rating and one band share their curves, so one verdict does for all of them;
    # the curves are kept with it, that no other takes their id.
    verdicts: dict[int, tuple[tuple[Array, Array], bool]] = {}

    def able(fuse: Fuse) -> bool:
        if _too_small(fuse, setting):
            return False
        curves = fuse_curves(fuse, setting.ambient_c)
        if id(curves) not in verdicts:
            verdicts[id(curves)] = curves, not opens_wrongly(*curves, setting)
        return verdicts[id(curves)][1]

    def near(item: JudgedPart[Fuse]) -> tuple[float, ...]:
        """How far its rating lies from what is asked, as a ratio."""
        return (abs(math.log(max(1.0 + item.headroom, 1e-6))),)

    return place_of(
        fuses,
        wanted,
        judge=lambda fuse: judge_fuse(fuse, setting),
        order=order,
        done=lambda item: spare(item.part),
        able=able,
        better=spare,
        near=near,
    )


def next_standard_a(fuses: Iterable[Fuse], least_a: float) -> float:
    """The smallest rating on offer that is not under ``least_a``; infinite where there is none."""
    return min(
        (fuse.rating_a for fuse in fuses if fuse.rating_a >= least_a - 1e-9), default=math.inf
    )
