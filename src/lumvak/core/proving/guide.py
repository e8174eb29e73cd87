"""How each test is done: what it is for, what is connected to what, what to beware of (methods 42).

The usual cautions stand at each test; they defer to local codes and licensed practice.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from lumvak.core.document.proving import Instrument, Quantity, TestName
from lumvak.core.proving.bench_pack import PARTS, BenchPack
from lumvak.core.proving.programme import (
    CREEP_SHARE,
    EASES_S,
    LATE_SHARE,
    LEVELS,
    OFF_S,
    OVER_V,
    TRIP_TO,
    hold_s,
    trip_hold_s,
)
from lumvak.core.said import Text, phrase, say

# Where something is connected, in the order of the path.
Connected = Literal["pack", "output", "case", "group", "part"]


class TestGuide(Struct, frozen=True):
    """A test in words; ``drawn`` is what is connected where."""

    test: TestName
    name: str
    purpose: str
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    drawn: tuple[tuple[Instrument, Connected], ...]

    @property
    def needs(self) -> tuple[Instrument, ...]:
        """What must be at hand."""
        return tuple(dict.fromkeys(name for name, _ in self.drawn))


LIVE = "A charged pack cannot be switched off: one tool at a time, taped, no rings, eyes covered."
FIRE = "Outdoors or on stone, never alone and never asleep: know where you would put it."
HOT = "Feel for warmth with the back of a hand, and stop where you cannot leave it."
MAINS = "The mains part of a charger is for licensed practice: measure on its DC plug alone."

# fmt: off
EVERY = (
    TestGuide("insulation", "Insulation",
              "That plus is plus, and nothing of the pack touches its case.",
              ("Meter on volts, red on the plus lead: it must read plus.",
               "Then one probe on the case or frame, the other on each end in turn.",
               "Keep the highest of these."),
              (LIVE, "More than 60 V DC is dangerous to touch: local rules may ask for more "
                     "than this test."),
              (("meter", "case"),)),
    TestGuide("asleep", "Sleeping BMS",
              "That a new BMS gives nothing until it is told to, and how it wakes.",
              ("Nothing plugged in. Read the output.",
               "Wake it as its sheet says: charger, button or load.", "Read the output again."),
              (LIVE,), (("meter", "output"),)),
    TestGuide("groups", "Groups",
              "That all groups stand together before anything is charged.",
              ("Read every group at its taps, from the most negative on.",),
              (LIVE, "A probe that slips across two taps melts: tape all but its tip."),
              (("meter", "group"),)),
    TestGuide("total", "Totals",
              "That the groups add up to the whole: taps in order, meter true.",
              ("Read every group once more, then the whole pack.",),
              (LIVE,), (("meter", "group"), ("meter", "pack"))),
    TestGuide("full-charge", "Full charge",
              "That the groups come to the top together.",
              ("Supply off. Set volts and amps, then its over-voltage protection.",
               "Connect it to the output, plus to plus; then turn it on.",
               "Near the end read every group."),
              (FIRE, "Stop where a group runs ahead of the others or anything swells."),
              (("supply", "output"), ("meter", "group"))),
    TestGuide("staircase", "Staircase",
              "Resistance of cells and path, and how warm strips, cells and leads get.",
              ("Begin full and cool. Probes of the thermometer on the middle cells, on the "
               "busiest strip and on a main lead.",
               "Hold each level until warm; read amps, pack, output and warmth.",
               "Load off; ten seconds later read the pack again."),
              (FIRE, HOT, "Lamps and heaters get hot enough to light paper."),
              (("load", "output"), ("meter", "pack"), ("thermometer", "group"))),
    TestGuide("drops", "Drops",
              "Which joint, screw, fuse or contact loses more than its share.",
              ("Draw the continuous current.",
               "Read amps; then the drop across fuse, BMS, connector and every series "
               "connection, meter on millivolts."),
              (LIVE, HOT), (("load", "output"), ("meter", "part"))),
    TestGuide("over-current", "Over-current",
              "At how many amps the BMS opens, and that it wakes again.",
              ("Raise the load by small steps, each held longer than the delay.",
               "Note the last that flowed, and the one at which it opened.",
               "Load off; see that it comes back as its sheet says."),
              (FIRE, "Not with a BMS that may not open: the fuse is then the only guard."),
              (("load", "output"),)),
    TestGuide("charger-stop", "Charger stop",
              "That the charger is the right one, and ends.",
              ("Meter on the output, then plug the charger in.",
               "Read now and then; keep the highest."),
              (FIRE, MAINS), (("charger", "output"), ("meter", "output"))),
    TestGuide("over-voltage", "Over-voltage",
              "At how many volts the BMS ends a charge, and which group was first.",
              ("From full, set the supply a little over the cut-off and to little current.",
               "Read the groups until the current stops; keep the highest.",
               "Then draw a tenth: a pack does not stay over full."),
              (FIRE, "A group 0.1 V over the cut-off and still charging: supply off at once."),
              (("supply", "output"), ("meter", "group"))),
    TestGuide("full-discharge", "Full discharge",
              "The real charge and energy, and which group is the weakest.",
              ("Begin full and cool, at the continuous current.",
               "Amps and volts as often as you can, or a meter that sums them.",
               "End where the BMS opens, a group is empty or the equipment would stop."),
              (FIRE, HOT),
              (("load", "output"), ("meter", "group"), ("thermometer", "group"))),
    TestGuide("under-voltage", "Under-voltage",
              "At how many volts the BMS ends a discharge, and which group was first.",
              ("From empty, draw a little until it opens; keep the lowest group's volts.",
               "Charge again at once."),
              (FIRE, "A group 0.2 V under the cut-off and still drawn from: load off at once."),
              (("load", "output"), ("meter", "group"))),
    TestGuide("surge", "Start surge",
              "The real peak of the equipment, pulled fast and slowly.",
              ("A clamp that holds its peak around one main lead, the equipment as it is used.",
               "Start it fast three times, then slowly; keep the highest."),
              ("Guards on, nobody in reach of what turns or cuts.", LIVE),
              (("meter", "output"),)),
    TestGuide("self-discharge", "Self-discharge",
              "That no group loses its charge by itself.",
              ("A tenth under full and rested for six hours, read every group.",
               "Read them again after a week, and keep how many hours lay between."),
              (LIVE,), (("meter", "group"),)),
)
# fmt: on
GUIDES: dict[TestName, TestGuide] = {item.test: item for item in EVERY}


def minutes(test: TestName, pack: BenchPack) -> float:
    """About how long a test takes, with the charge and the cooling that it wants."""
    charge = 60.0 * 1.2 * pack.group_ah / pack.charge_a
    cool = 60.0
    return {
        "insulation": 2.0,
        "asleep": 2.0,
        "groups": 0.5 * pack.series,
        "total": 0.5 * pack.series + 1.0,
        "full-charge": charge,
        "staircase": 0.4 * charge + cool + len(LEVELS) * hold_s(pack) / 60.0,
        "drops": 3.0 + 0.5 * pack.series,
        "over-current": 15.0,
        "charger-stop": charge,
        "over-voltage": 60.0,
        "full-discharge": charge + cool + 60.0 * pack.group_ah / pack.discharge_a,
        "under-voltage": 20.0,
        "surge": 10.0,
        "self-discharge": 7 * 24 * 60.0,
    }[test]


class HandReading(Struct, frozen=True):
    """A reading that is taken by hand: what to do, where, and what is kept of it.

    ``level_a`` is at which current, where it is known; ``flows`` whether the one that was read last
    flows; ``at_s`` how long into the test it is.
    """

    says: Text
    place: str
    what: Quantity = "volts"
    level_a: float | None = None
    flows: bool = False
    at_s: float = 0.0


def by_hand(test: TestName, pack: BenchPack) -> tuple[HandReading, ...]:
    """The readings of a test as a person takes them, one at a time."""
    every = tuple(
        HandReading(phrase("Group {}, at its taps", group), f"group:{group}")
        for group in range(1, pack.series + 1)
    )
    if test in ("groups", "full-charge"):
        return every
    if test == "total":
        return (*every, HandReading("The whole pack, at the ends of the cells", "pack"))
    if test == "insulation":
        return (HandReading("The highest between the case and either end", "case"),)
    if test == "asleep":
        return (HandReading("The output, before the BMS is woken", "terminals"),)
    if test == "staircase":
        return tuple(_stairs_by_hand(pack))
    if test == "drops":
        return tuple(_drops_by_hand(pack))
    return _ends_by_hand(test, pack, every)


def _ends_by_hand(
    test: TestName, pack: BenchPack, every: tuple[HandReading, ...]
) -> tuple[HandReading, ...]:
    """The readings of tests that are told by where they end."""
    if test == "over-current":
        return (
            HandReading("The last current that flowed", "bms", "amps"),
            HandReading("The current at which it opened", "bms", "amps", level_a=0.0),
        )
    if test == "surge":
        return (
            HandReading("The highest peak of three fast starts", "pack", "amps"),
            HandReading("The highest peak of three slow starts", "leads", "amps"),
        )
    if test == "charger-stop":
        return (HandReading("The highest on the charger's plug before it stopped", "charger"),)
    if test == "over-voltage":
        return (HandReading("The highest group, last before the current stopped", "group:1"),)
    if test == "under-voltage":
        return (HandReading("The lowest group, last before the current stopped", "group:1"),)
    if test == "full-discharge":
        return (
            HandReading("Charge taken out, from full to the end", "pack", "ah"),
            HandReading("Energy taken out, from full to the end", "pack", "wh"),
            HandReading("The warmest cells at the end", "cells", "celsius"),
            HandReading("The air around", "air", "celsius"),
        )
    week = 7 * 86_400.0
    later = tuple(
        HandReading(phrase("{}, a week later", it.says), it.place, at_s=week) for it in every
    )
    return (*every, *later)


# Where a thermometer is held, and its name.
WARM_PLACES = (
    ("air", "The air around"),
    ("cells", "The middle cells"),
    ("strip", "The busiest strip"),
    ("lead", "A main lead"),
)


def _stairs_by_hand(pack: BenchPack) -> Iterator[HandReading]:
    held, at = hold_s(pack), 0.0
    for place, words in WARM_PLACES:
        cool = phrase("{}, before the load is on", words)
        yield HandReading(cool, place, "celsius", level_a=0.0, at_s=at)
    for share in LEVELS:
        level, at = share * pack.load_a, at + held
        yield HandReading(
            phrase(
                "Set the load to {}, hold it for {}; what flows", say(level, "A"), say(held, "s")
            ),
            "pack",
            "amps",
            at_s=at,
        )
        yield HandReading("The pack, at the ends of the cells", "pack", flows=True, at_s=at)
        yield HandReading("The output, behind the connector", "terminals", flows=True, at_s=at)
        for place, words in WARM_PLACES:
            yield HandReading(words, place, "celsius", flows=True, at_s=at)
        at += OFF_S
        yield HandReading("Load off; ten seconds later, the pack", "pack", level_a=0.0, at_s=at)
    for turn in (1, 2):
        later = phrase("The pack, {} after the load is off", say(OFF_S + turn * EASES_S, "s"))
        yield HandReading(later, "pack", level_a=0.0, at_s=at + turn * EASES_S)


def _drops_by_hand(pack: BenchPack) -> Iterator[HandReading]:
    yield HandReading(phrase("Draw {}; what flows", say(pack.load_a, "A")), "pack", "amps")
    for place, ohm in zip(PARTS, pack.parts_ohm, strict=True):
        if place != "leads" and ohm > 0.0:
            yield HandReading(phrase("Across the {}", PART_WORDS[place]), place, flows=True)
    for joint in range(1, pack.series):
        yield HandReading(
            phrase("From group {} to group {}, cell to cell", joint, joint + 1),
            f"joint:{joint}",
            flows=True,
        )


PART_WORDS = {"fuse": "fuse", "bms": "BMS", "connector": "connector"}


def settings_said(test: TestName, pack: BenchPack) -> Text:
    """What load and supply are set to in a test; empty where neither is on."""
    if test == "full-charge":
        return phrase(
            "Supply: {} and {}, until under {} flows.",
            say(pack.full_v, "V"),
            say(pack.charge_a, "A"),
            say(pack.tail_a, "A"),
        )
    if test == "staircase":
        levels = say(LEVELS[0] * pack.load_a, "A"), say(pack.load_a, "A")
        return phrase("Load: {} levels from {} to {}.", len(LEVELS), *levels)
    if test == "drops":
        return phrase("Load: {}.", say(pack.load_a, "A"))
    if test == "full-discharge":
        return phrase(
            "Load: {}, down to {} or {} a group.",
            say(pack.discharge_a, "A"),
            say(pack.stop_v, "V"),
            say(pack.floor_v, "V"),
        )
    board = pack.board
    if test == "over-current" and board is not None:
        level = board.stages[0]
        return phrase(
            "Load: up to {}, each step held {}.",
            say(TRIP_TO * level.current_a, "A"),
            say(trip_hold_s(level.delay_s), "s"),
        )
    if test == "over-voltage" and board is not None:
        return phrase(
            "Supply: {} and {}.",
            say(pack.series * (board.over_voltage_v + OVER_V), "V"),
            say(CREEP_SHARE * pack.group_ah, "A"),
        )
    if test == "under-voltage":
        return phrase("Load: {}.", say(LATE_SHARE * pack.load_a, "A"))
    return ""
