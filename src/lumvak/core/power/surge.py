"""Surge thermistors, and precharge against the spark of a controller's capacitors (methods 23)."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.power_parts import Surge
from lumvak.core.conductors.thermistor import hot_state, recovery_s, thermistor_ohm
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.point import Point
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.place import JudgedPart, Place, place_of
from lumvak.core.said import digits, phrase, say, say_delay

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
POWER_SPARK_J = Rule("power.spark_j", "The spark when it is plugged in", "J", "{}", "methods 23")
# fmt: on

# Capacitors are taken as full after five time constants; longer than this nobody holds a button.
CONSTANTS, LONGEST_PRECHARGE_S = 5.0, 5.0
# A spark of more energy than this pits contacts.
SPARK_J = 0.05


class SurgeSetting(Struct, frozen=True):
    """What a surge part meets: the load, the source, the pause between starts, capacitors."""

    draw: Draw
    heat_a: float
    emf_v: float
    ambient_c: float
    pause_s: float
    capacitance_f: float
    board: Board | None


def judge_thermistor(part: Surge, setting: SurgeSetting) -> JudgedPart[Surge]:
    """Judge one thermistor: what it carries, whether it cools, whether it prevents the trip."""
    reasons = []
    steady = part.steady_a or 0.0
    if steady < setting.heat_a - 1e-9:
        reasons.append(
            Point(
                "steady",
                phrase(
                    "carries {} continuously; the load draws {}",
                    say(steady, "A"),
                    say(setting.heat_a, "A"),
                ),
                "One with a higher steady rating, or two in parallel.",
            )
        )
    hot = hot_state(part, min(setting.heat_a, steady), setting.ambient_c)
    needed = recovery_s(part, hot.temperature_c, setting.ambient_c)
    if needed > setting.pause_s:
        reasons.append(
            Point(
                "cools",
                phrase(
                    "needs {} s to cool; the next start comes after {} s",
                    digits(needed, ".0f"),
                    digits(setting.pause_s, ".0f"),
                ),
                "A soft start; a thermistor is not for starts in quick succession.",
            )
        )
    if setting.board is not None:
        cold = thermistor_ohm(part, setting.ambient_c)
        limited = setting.draw.limited(cold, setting.emf_v)
        for stage in setting.board.stages:
            after = limited.start_after_a(stage.delay_s)
            if after > stage.current_a:
                reasons.append(
                    Point(
                        "trips",
                        phrase(
                            "lets {} by after {}; the BMS opens over {}",
                            say(after, "A"),
                            say_delay(stage.delay_s),
                            say(stage.current_a, "A"),
                        ),
                        "One with more resistance when cold.",
                    )
                )
                break
    return JudgedPart(part, tuple(reasons), steady / setting.heat_a - 1.0)


class Precharge(Struct, frozen=True):
    """Capacitors filled through a resistor: most current, energy in it, time to be full."""

    peak_a: float
    energy_j: float
    seconds: float
    watts: float


def precharge(ohm: float, volts: float, capacitance_f: float) -> Precharge:
    """V ÷ R, ½ C V², 5 R C, and the mean watts while it lasts (methods 23)."""
    energy = 0.5 * capacitance_f * volts**2
    seconds = CONSTANTS * ohm * capacitance_f
    return Precharge(volts / ohm, energy, seconds, energy / seconds)


def judge_precharge(part: Surge, setting: SurgeSetting) -> JudgedPart[Surge]:
    """Judge one resistor or anti-spark contact for the capacitors there are."""
    reasons = []
    if setting.capacitance_f > 0.0:
        found = precharge(part.ohm, setting.emf_v, setting.capacitance_f)
        if found.energy_j > part.energy_j:
            reasons.append(
                Point(
                    "energy",
                    phrase(
                        "swallows {} at once; the capacitors take {} through it",
                        say(part.energy_j, "J"),
                        say(found.energy_j, "J"),
                    ),
                    "One that takes more energy.",
                )
            )
        if found.seconds > LONGEST_PRECHARGE_S and part.kind == "resistor":
            reasons.append(
                Point(
                    "slow",
                    phrase("needs {} to fill the capacitors", say(found.seconds, "s")),
                    "One with less resistance.",
                )
            )
    return JudgedPart(part, tuple(reasons), 0.0)


def thermistor_place(
    parts: Iterable[Surge], wanted: str | None, setting: SurgeSetting
) -> Place[Surge]:
    """Thermistors judged; the recommended has the least resistance that prevents the trip."""
    own = [part for part in parts if part.kind == "thermistor"]
    return place_of(
        own, wanted, lambda part: judge_thermistor(part, setting), lambda item: (item.part.ohm,)
    )


def precharge_place(
    parts: Iterable[Surge], wanted: str | None, setting: SurgeSetting
) -> Place[Surge]:
    """Resistors and anti-spark contacts judged; the recommended is the cheapest that serves."""
    own = [part for part in parts if part.kind != "thermistor"]
    return place_of(
        own, wanted, lambda part: judge_precharge(part, setting), lambda item: (item.part.price,)
    )


def spark_figure(soft: bool, capacitance: Figure, full: Figure) -> Figure:
    """The energy in J of the spark when a pack is plugged in; none where it is done softly.

    ``capacitance`` is what the controller has, in µF (methods 23).
    """
    return POWER_SPARK_J.of(
        0.0 if soft else 0.5e-6 * capacitance.number * full.number**2,
        capacitance,
        full,
        rule="nothing: it is precharged" if soft else "½ × capacitors × full voltage²",
    )
