"""How a fault that was found is repaired, with what, and what is to be proven again after it."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from lumvak.core.document.proving import TestName
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, listed, phrase, say
from lumvak.core.trouble.diagnosis import RankedCause

ALL_LEADS = (
    "Take the balance plug off first, then the output, then the − of the cells; put the − of the "
    "cells on first, check every total at the plug, and the plug last."
)
OFF = (
    "Discharge to about half. Rings off, insulated tools, one lead at a time, eyes covered, all "
    "else covered, a way to carry it outside."
)
WELD = (
    "Cut the old strip beside the weld, never pull it off a cell; clean, and weld or solder anew."
)
LEVEL = "Bring the new cells to the volts of the group within 10 mV before they are joined."
MOST_BOARDS = 3
# The tests of Prove that a repair of each part spoils, by their names there.
TESTS: dict[str, tuple[TestName, ...]] = {
    "group": ("groups", "staircase", "full-discharge", "self-discharge"),
    "joint": ("drops", "staircase"),
    "tap": ("groups",),
    "bleed": ("asleep", "groups", "over-voltage", "under-voltage", "over-current"),
    "bms": ("asleep", "over-voltage", "under-voltage", "over-current", "charger-stop"),
    "thermistor": ("full-charge",),
    "fuse": ("drops",),
    "connector": ("drops", "staircase"),
    "lead": ("drops", "staircase"),
    "charger": ("charger-stop", "full-charge"),
    "charge": ("full-charge",),
    "precharge": ("surge",),
}


class RepairPlan(Struct, frozen=True):
    """Steps in their order, whether a builder should, and the tests to be taken again."""

    may: bool
    steps: tuple[Text, ...]
    tests: tuple[TestName, ...]


def repair_of(evaluation: Evaluation, found: RankedCause) -> RepairPlan:
    """The plan for a cause in its place."""
    part = found.cause.name.partition("-")[0]
    may = found.cause.by in ("builder", "part")
    steps = tuple(_steps(evaluation, found, part)) if may else (_why_not(found),)
    return RepairPlan(may, steps, TESTS.get(part, ()) if may else ())


def _why_not(found: RankedCause) -> Text:
    if found.cause.by == "nobody":
        return found.cause.mend
    return phrase("Nothing is replaced: {}.", found.cause.mend)


def _steps(evaluation: Evaluation, found: RankedCause, part: str) -> Iterator[Text]:
    yield OFF
    number = found.where.partition(":")[2]
    if part == "group":
        yield from _group(evaluation, found, number)
    elif part == "joint":
        yield phrase("Connection {}: {}", int(number), WELD)
    elif part == "tap":
        yield phrase("Balance lead {}, with the plug off: {}.", int(number), found.cause.mend)
        yield "Check every running total before the plug goes in (Balance leads)."
    elif part in ("bms", "bleed"):
        yield from _board(evaluation)
    else:
        yield phrase("{}.", found.cause.mend)


def _group(evaluation: Evaluation, found: RankedCause, number: str) -> Iterator[Text]:
    choice, hand = evaluation.sized.choice, evaluation.project.hand
    if found.cause.name == "group-flat":
        yield phrase(
            "Charge group {} alone, with {} at most, to the volts of the others; never one that "
            "rested under {}.",
            int(number),
            say(0.2 * choice.cell.charge_standard_a * choice.parallel, "A"),
            say(0.8 * choice.cell.voltage_empty_v, "V"),
        )
        yield "Read it each day for a week: one that falls again goes out."
        return
    yield phrase(
        "Group {}: {} cells of one kind and age, within 2 % of each other in charge and 5 % in "
        "resistance, and of the charge that the other groups still have.",
        int(number),
        choice.parallel,
    )
    lots = [it.name for it in hand.lots if it.cell == choice.cell.id]
    if lots:
        yield phrase("Cells in hand has some of that kind: {}.", listed(lots))
    yield WELD
    yield LEVEL


def _board(evaluation: Evaluation) -> Iterator[Text]:
    fit = [it.board.name for it in evaluation.sized.boards.own if it.serves][:MOST_BOARDS]
    if fit:
        yield phrase("What fits this pack: {}.", listed(fit))
    else:
        yield "No BMS on offer fits this pack: see shop for what to look for."
    yield ALL_LEADS
