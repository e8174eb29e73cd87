"""The bill of materials of a pack: what it takes, how much, and what that costs (methods 43)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from msgspec import Struct

from lumvak.core.evaluation import (
    Evaluation,
    fixings_in_hand,
    guides_in_hand,
    harness_in_hand,
)
from lumvak.core.said import Text, phrase, say, say_sides

# A pack of so many cells or more has such a share beside; strip is cut with some waste.
SPARE_FROM, SPARE_SHARE, WASTE = 10, 0.02, 1.1
# A tube slips over a pack with so much room around it, and is folded over its ends.
SLACK_MM = 6.0
# A tape goes round each series connection and lead so often.
TAPE_TURNS = 2.0
TAPE_MM = 20.0


class BillLine(Struct, frozen=True):
    """A line: what it is, how much in ``unit`` (empty where it is counted), cost, what is in hand.

    ``cost`` is ``None`` where nobody knows it.
    """

    what: Text
    count: float
    unit: str = ""
    cost: float | None = None
    in_hand: int = 0
    note: Text = ""


def bill_of(evaluation: Evaluation) -> tuple[BillLine, ...]:
    """Everything that the pack takes, in the order in which it is built."""
    return (
        *_cells(evaluation),
        *_fixings(evaluation),
        *_strips(evaluation),
        *_around(evaluation),
        *_leads(evaluation),
        *_parts(evaluation),
        BillLine("label", 1),
    )


def bill_cost(lines: Iterable[BillLine]) -> float:
    """What is known of the cost of all lines together."""
    return sum(line.cost or 0.0 for line in lines)


def _cells(evaluation: Evaluation) -> Iterator[BillLine]:
    choice = evaluation.sized.choice
    count = choice.series * choice.parallel
    spare = math.ceil(SPARE_SHARE * count) if count >= SPARE_FROM else 0
    yield BillLine(
        phrase("cell {}", choice.cell.name),
        count + spare,
        cost=(count + spare) * choice.cell.price,
        in_hand=len(evaluation.project.hand.cells),
        note=phrase("{} of them are spares", spare) if spare else "",
    )


def _fixings(evaluation: Evaluation) -> Iterator[BillLine]:
    for fixing in fixings_in_hand(evaluation):
        cost = None if fixing.price is None else fixing.count * fixing.price
        yield BillLine(fixing.name, fixing.count, cost=cost)


def _strips(evaluation: Evaluation) -> Iterator[BillLine]:
    """Strips, bars, plates and link wires by what they are cut from, with their waste."""
    metres: dict[tuple[str, Text], float] = {}
    for cut in evaluation.cuts:
        key = cut.size.part_id, cut.size.part
        whole = cut.size.length_mm * cut.layers * cut.strips / 1000.0
        metres[key] = metres.get(key, 0.0) + whole
    known = evaluation.sized.parts.conductors
    for (part_id, name), metre in metres.items():
        part = known.get(part_id)
        long = WASTE * metre
        cost = None if part is None else long * part.price_per_m
        yield BillLine(name, round(long, 2), "m", cost=cost, note="with a tenth of waste")


def _around(evaluation: Evaluation) -> Iterator[BillLine]:
    """What goes round the pack: tape on its faces, a tube or a wrap by its flat width, foam."""
    sides = sorted(
        evaluation.figures[f"layout.{name}_mm"].number for name in ("length", "width", "height")
    )
    low, middle, longest = sides
    around = 2.0 * (low + middle)
    flat = math.ceil(around / 2.0 + SLACK_MM)
    long = math.ceil(longest + low + 2.0 * SLACK_MM)
    yield BillLine(phrase("shrink tube, {} flat", say(flat, "mm")), round(long / 1000.0, 2), "m")
    face = say_sides((math.ceil(longest), math.ceil(middle)))
    yield BillLine(phrase("insulating sheet, {}", face), 2, note="one over the joints of each side")
    yield BillLine(phrase("foam, {}", face), 2, note="where the case leaves room")
    tape = TAPE_TURNS * around * max(evaluation.sized.choice.series - 1, 1) / 1000.0
    yield BillLine(phrase("tape, {} wide", say(TAPE_MM, "mm")), round(tape, 1), "m")


def _leads(evaluation: Evaluation) -> Iterator[BillLine]:
    for words, wire in (
        ("main leads", evaluation.sized.wire),
        ("charge leads", evaluation.power.charge_wire),
    ):
        both = 2.0 * wire.length.number
        cost = None if wire.part is None else both * wire.part.price_per_m
        name = phrase("{}, {}", words, wire.name)
        yield BillLine(name, round(both, 2), "m", cost=cost, note="plus and minus")
    harness = harness_in_hand(evaluation, guides_in_hand(evaluation))
    if harness.wires:
        metres = sum(wire.length_mm for wire in harness.wires) / 1000.0
        name = phrase("balance leads, {}", say(harness.area_mm2, "mm²"))
        yield BillLine(name, round(metres, 2), "m", note=phrase("{} wires", len(harness.wires)))
    if harness.sensors:
        yield BillLine("temperature sensor", len(harness.sensors))


def _parts(evaluation: Evaluation) -> Iterator[BillLine]:
    power = evaluation.power
    for kind, part in (
        ("BMS", power.made),
        ("fuse", power.fuse.part),
        ("charge fuse", power.charge_fuse.part),
        ("connector", power.connector.part),
        ("switch", power.switch.part),
        ("precharge", power.precharge.part),
    ):
        if part is not None:
            yield BillLine(phrase("{}, {}", kind, part.name), 1, cost=part.price or None)
    yield BillLine(phrase("charger, {}", evaluation.charging.charger.name), 1)
