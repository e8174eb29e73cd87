"""Connectors and switches: what they carry for how long, and which one suits."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import TypeVar

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.power_parts import Connector, Switch
from lumvak.core.figures.point import Point
from lumvak.core.power.place import JudgedPart, Place, place_of
from lumvak.core.said import phrase, say, say_delay
from lumvak.core.time_current import TIMES_S, Array, rated_curve

C = TypeVar("C", Connector, Switch)
# To spare over the continuous load where a part is recommended; contacts wear.
MARGIN = 1.2
# Contacts lose their spring at about twice the rise of their rating: harm at 1.41 times it.
HARM = 2.0**0.5


class ContactSetting(Struct, frozen=True, eq=False):
    """What a contact must carry: the load for good, what is drawn over TIMES_S, the voltage.

    ``passed_a`` (T,) is the most that the fuse lets pass over TIMES_S; zeros where there is none.
    """

    current_a: float
    drawn_a: Array
    full_v: float
    passed_a: Array


@lru_cache(maxsize=256)
def contact_curve(continuous_a: float, short_a: float, short_s: float) -> Array:
    """What a contact holds in A over TIMES_S, (T,); the array is shared and not to be changed."""
    return rated_curve(continuous_a, short_a, short_s)


def contact_mohm(part: Connector | Switch) -> float:
    """Resistance in milliohm of a mated connector or a closed switch."""
    return part.mated_mohm if isinstance(part, Connector) else part.resistance_mohm


def drop_mv(part: Connector | Switch, current_a: float) -> float:
    """mV lost in a mated connector or a closed switch at a current in A (methods 22)."""
    return current_a * contact_mohm(part)


def curve_of(part: Connector | Switch) -> Array:
    """What a connector or a switch holds in A over TIMES_S, (T,)."""
    return contact_curve(part.continuous_a, part.short_a, part.short_s)


def _carries(part: Connector | Switch, setting: ContactSetting) -> list[Point]:
    reasons = []
    if part.continuous_a < setting.current_a - 1e-9:
        reasons.append(
            Point(
                "continuous",
                phrase(
                    "{} continuous; the load draws {}",
                    say(part.continuous_a, "A"),
                    say(setting.current_a, "A"),
                ),
                phrase("It would serve a load of up to {}.", say(part.continuous_a, "A")),
            )
        )
    held = curve_of(part)
    over = np.flatnonzero(setting.drawn_a > held * (1.0 + 1e-9))
    if len(over) and part.continuous_a >= setting.current_a - 1e-9:
        last = int(over[-1])
        reasons.append(
            Point(
                "peak",
                phrase(
                    "carries {} for {}; {} are drawn",
                    say(float(held[last]), "A"),
                    say_delay(float(TIMES_S[last])),
                    say(float(setting.drawn_a[last]), "A"),
                ),
                "A larger one, or a shorter peak.",
            )
        )
    if part.voltage_dc_v < setting.full_v - 1e-9:
        reasons.append(
            Point(
                "voltage",
                phrase(
                    "is rated {} DC; the pack is {} when full",
                    say(part.voltage_dc_v, "V"),
                    say(setting.full_v, "V"),
                ),
                "One with a higher DC rating.",
            )
        )
    return reasons


def _able(part: Connector | Switch, setting: ContactSetting) -> bool:
    """Whether its plain ratings reach; one whose do not serves for sure not."""
    return (
        part.continuous_a >= setting.current_a - 1e-9 and part.voltage_dc_v >= setting.full_v - 1e-9
    )


def judge_connector(part: Connector, setting: ContactSetting) -> JudgedPart[Connector]:
    """Judge one connector."""
    reasons = tuple(_carries(part, setting))
    return JudgedPart(part, reasons, part.continuous_a / setting.current_a - 1.0)


def judge_switch(part: Switch, setting: ContactSetting) -> JudgedPart[Switch]:
    """Judge one switch; it must also break what is drawn for good."""
    reasons = _carries(part, setting)
    if part.breaking_a < setting.current_a - 1e-9:
        reasons.append(
            Point(
                "breaking",
                phrase(
                    "breaks {} at its voltage; the load draws {}",
                    say(part.breaking_a, "A"),
                    say(setting.current_a, "A"),
                ),
                "One that breaks more, or never switch it under load.",
            )
        )
    return JudgedPart(part, tuple(reasons), part.continuous_a / setting.current_a - 1.0)


def harm_of(part: Connector | Switch) -> Array:
    """What harms a connector or a switch in A over TIMES_S, (T,)."""
    return curve_of(part) * HARM


def _lacks(item: JudgedPart[C], setting: ContactSetting) -> tuple[bool, bool]:
    """Whether the fuse does not guard it, and whether it has less than a fifth to spare."""
    guarded = bool(np.all(setting.passed_a <= harm_of(item.part) * (1.0 + 1e-9)))
    return not guarded, item.headroom < MARGIN - 1.0


def connector_place(
    parts: Iterable[Connector], wanted: str | None, setting: ContactSetting
) -> Place[Connector]:
    """All connectors judged; the recommended is the cheapest that the fuse guards.

    Where there is such, with a fifth to spare. They come the cheapest first.
    """
    return _place(parts, wanted, setting, judge_connector)


def switch_place(
    parts: Iterable[Switch], wanted: str | None, setting: ContactSetting
) -> Place[Switch]:
    """All switches judged; the recommended is the cheapest that the fuse guards.

    Where there is such, with a fifth to spare. They come the cheapest first.
    """
    return _place(parts, wanted, setting, judge_switch)


def _place(
    parts: Iterable[C],
    wanted: str | None,
    setting: ContactSetting,
    judge: Callable[[C, ContactSetting], JudgedPart[C]],
) -> Place[C]:
    def order(item: JudgedPart[C]) -> tuple[float, ...]:
        return (*_lacks(item, setting), item.part.price)

    return place_of(
        parts,
        wanted,
        judge=lambda part: judge(part, setting),
        order=order,
        done=lambda item: not any(_lacks(item, setting)),
        able=lambda part: _able(part, setting),
    )
