"""Cells in hand as a topic of the evaluation: who is good, who sits where, what may be joined."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.hand import Hand, HandCell, Lot
from lumvak.core.document.measured import MeasuredCell
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.matching.joining import Gate, gate
from lumvak.core.matching.judging import JudgedCell, LotJudged, Measures, judge_lot
from lumvak.core.matching.numbering import slips
from lumvak.core.matching.taken import AsTaken, as_taken, told_apart
from lumvak.core.said import Text, listed, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
GOOD = Rule("{}.good", "Cells that may be used", "", "read, and not rejected", "methods 26")
CAPACITY_OFF = Rule("{}.capacity_off", "Capacities measured within", "%", "share of the reading",
                    "methods 26")
PACK_V = Rule("{}.pack_v", "OCV of the pack now", "V", "all groups, summed", "methods 27")
CELLS = Rule("{}.cells", "Cells in hand", "", "counted", "the project")
WEAKEST_AH = Rule("{}.weakest_ah", "Charge of the weakest group", "Ah",
                  "the pack gives what its weakest group gives", "methods 26")
SPREAD = Rule("{}.spread", "Groups apart in capacity", "%", "(largest − least) ÷ mean",
              "methods 26")
GROUP_AH = Rule("{}.group{}_ah", "Group {}", "Ah", "cells {}, summed", "methods 26")
GROUP_V = Rule("{}.group{}_v", "OCV of group {}", "V",
               "where its cells come to rest once they are joined", "methods 27")
# fmt: on

STAGE = "hand"


class LotKind(Struct, frozen=True):
    """What the cells of a lot are: the cell, its chemistry and how it behaves."""

    cell: Cell
    family: Family
    behaviour: Behaviour


class GroupNow(Struct, frozen=True):
    """A group of the pack as its cells are now; ``None`` where something was not measured.

    ``volts`` is where its cells come to rest once they are joined.
    """

    number: int
    cells: tuple[int, ...]
    ah: float | None
    siemens: float | None
    volts: float | None
    gate: Gate | None


class Matched(Struct, frozen=True, eq=False, dict=True):
    """All lots judged, the cells by their place, and each group as it is now."""

    lots: tuple[LotJudged, ...]
    seats: int
    groups: tuple[GroupNow, ...]
    by_place: Mapping[str, HandCell]
    measured: tuple[MeasuredCell, ...]
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    links: tuple[Link, ...] = ()

    @cached_property
    def judged(self) -> Mapping[int, JudgedCell]:
        """Every cell by its number."""
        return {item.cell.number: item for lot in self.lots for item in lot.cells}

    @cached_property
    def ohm(self) -> Mapping[int, float]:
        """Resistance in ohm after 10 s of every cell that has one, by its number."""
        ratio = {lot.lot.name: 1.0 if lot.sheet is None else lot.sheet.dc_over for lot in self.lots}
        return {
            number: item.cell.mohm * 1e-3 * ratio[item.cell.lot]
            for number, item in self.judged.items()
            if item.cell.mohm is not None
        }

    @cached_property
    def weakest_ah(self) -> Figure | None:
        """The charge of the weakest group, where all cells were placed and measured."""
        return next((item for item in self.figures if item.key == f"{STAGE}.weakest_ah"), None)

    @cached_property
    def capacity_off(self) -> Figure | None:
        """How far off capacities may be, where the weakest group is known by them."""
        return next((item for item in self.figures if item.key == f"{STAGE}.capacity_off"), None)

    @cached_property
    def good(self) -> tuple[HandCell, ...]:
        """Cells that may be used, in the order of their numbers."""
        found = [item.cell for lot in self.lots for item in lot.good]
        return tuple(sorted(found, key=lambda cell: cell.number))


def matched(
    hand: Hand,
    read: Measures,
    kinds: Mapping[str, LotKind],
    own: LotKind,
    given_ah: Mapping[str, float],
    series: int,
    parallel: int,
) -> Matched:
    """Judge all cells in hand and look at the groups that they were placed in (methods 26, 27).

    ``read`` is what was measured of the cells; ``kinds`` are what lots are said to be, by the id of
    the cell; ``own`` is the pack's cell, which lots are that say nothing. ``given_ah`` is what the
    sheet's cell gives as a lot's capacities were taken, by the lot's name. Without any cell in hand
    there is nothing to say. It is long, for it names every step of the work.
    """
    of_lot: dict[str, list[int]] = {lot.name: [] for lot in hand.lots}
    for place in sorted(range(len(hand.cells)), key=lambda at: hand.cells[at].number):
        of_lot[hand.cells[place].lot].append(place)
    lots, taken = [], dict[str, AsTaken]()
    for lot in hand.lots:
        kind = kind_of(lot, kinds, own)
        ah = given_ah.get(lot.name, kind.cell.capacity_typical_ah)
        taken[lot.name] = as_taken(lot, kind.cell, kind.behaviour, ah)
        places = of_lot[lot.name]
        lots.append(
            judge_lot(
                lot,
                [hand.cells[at] for at in places],
                cell=kind.cell,
                family=kind.family,
                meter=hand.meter,
                taken=taken[lot.name],
                measures=read.of(places),
            )
        )
    known = {cell.number: cell for cell in hand.cells} if hand.placed else {}
    by_place = {item.cell: known[item.number] for item in hand.placed if item.number in known}
    ratio = {name: item.dc_over for name, item in taken.items()}
    measured = tuple(
        MeasuredCell(
            cell=place,
            ah=cell.ah,
            volts=cell.volts,
            mohm=None if cell.mohm is None else cell.mohm * ratio[cell.lot],
        )
        for place, cell in by_place.items()
        if cell.volts is None or cell.volts > 0.0
    )
    groups = tuple(_groups(hand, by_place, own, ratio, series, parallel))
    figures = tuple(_figures(hand, lots, groups))
    findings = tuple(_findings(hand, lots, groups, by_place, series * parallel))
    return Matched(
        tuple(lots),
        series * parallel,
        groups=groups,
        by_place=by_place,
        measured=measured,
        figures=figures,
        findings=findings,
    )


def kind_of(lot: Lot, kinds: Mapping[str, LotKind], own: LotKind) -> LotKind:
    """What the cells of a lot are: what it says, else the pack's own."""
    return own if lot.cell is None else kinds.get(lot.cell, own)


def place_name(group: int, seat: int) -> str:
    """``g3c2``: the second cell of the third group, both from 0."""
    return f"g{group + 1}c{seat + 1}"


def _groups(
    hand: Hand,
    by_place: Mapping[str, HandCell],
    own: LotKind,
    ratio: Mapping[str, float],
    series: int,
    parallel: int,
) -> Iterator[GroupNow]:
    if not by_place:
        return
    for group in range(series):
        seats = [by_place.get(place_name(group, seat)) for seat in range(parallel)]
        cells = [cell for cell in seats if cell is not None]
        full = len(cells) == parallel
        ah = [cell.ah for cell in cells if cell.ah is not None]
        ohm = [cell.mohm * ratio[cell.lot] * 1e-3 for cell in cells if cell.mohm is not None]
        yield GroupNow(
            group + 1,
            tuple(cell.number for cell in cells),
            sum(ah) if full and len(ah) == parallel else None,
            sum(1.0 / value for value in ohm) if full and len(ohm) == parallel else None,
            rest_together(cells, own) if full else None,
            gate(cells, own.cell, own.behaviour, hand.meter) if cells else None,
        )


def rest_together(cells: list[HandCell], own: LotKind) -> float | None:
    """Where cells in V come to rest once they are joined; ``None`` where a voltage is missing.

    Their charges, each weighted with its capacity, come to one level.
    """
    if not cells or any(cell.volts is None or cell.volts <= 0.0 for cell in cells):
        return None
    volts = np.array([cell.volts for cell in cells], dtype=float)
    rated = own.cell.capacity_typical_ah
    ah = np.array([rated if cell.ah is None else cell.ah for cell in cells])
    level = float(ah @ own.behaviour.charge_at(volts) / ah.sum())
    return float(own.behaviour.rest(np.array(level)))


def _figures(hand: Hand, lots: list[LotJudged], groups: tuple[GroupNow, ...]) -> Iterator[Figure]:
    if not hand.cells:
        return
    read = CELLS.of(len(hand.cells), origin="measured", key=STAGE)
    good = sum(len(lot.good) for lot in lots)
    yield read
    yield GOOD.of(good, read, key=STAGE)
    known = [group for group in groups if group.ah is not None]
    if groups and len(known) == len(groups):
        made = tuple(
            GROUP_AH.of(
                group.ah,
                origin="measured",
                key=(STAGE, group.number),
                label=group.number,
                rule=_listed(group.cells),
            )
            for group in known
        )
        values = [figure.number for figure in made]
        yield WEAKEST_AH.of(min(values), *made, key=STAGE)
        yield CAPACITY_OFF.of(hand.meter.ah_percent, origin="measured", key=STAGE)
        yield SPREAD.of((max(values) - min(values)) / (sum(values) / len(values)), *made, key=STAGE)
    resting = [group for group in groups if group.volts is not None]
    if groups and len(resting) == len(groups):
        volts = tuple(
            GROUP_V.of(
                group.volts, origin="measured", key=(STAGE, group.number), label=group.number
            )
            for group in resting
        )
        yield PACK_V.of(sum(item.number for item in volts), *volts, key=STAGE)


def _listed(numbers: tuple[int, ...], most: int = 12) -> Text:
    shown = listed(sorted(numbers)[:most])
    return shown if len(numbers) <= most else phrase("{} and {} more", shown, len(numbers) - most)


def _findings(
    hand: Hand,
    lots: list[LotJudged],
    groups: tuple[GroupNow, ...],
    by_place: Mapping[str, HandCell],
    seats: int,
) -> Iterator[Finding]:
    if not hand.cells:
        return
    out = [item for lot in lots for item in lot.cells if item.state == "reject"]
    yield from _counts(out, sum(len(lot.good) for lot in lots), len(hand.cells), seats)
    rejected = {item.cell.number: item for item in out}
    seated = sorted(cell.number for cell in by_place.values() if cell.number in rejected)
    if seated:
        yield Finding(
            "hand-placed-rejected",
            "stop",
            text=phrase(
                "Cells {} sit in the pack and are rejected"
                if len(seated) > 1
                else "Cell {} sits in the pack and is rejected",
                _listed(tuple(seated)),
            ),
            why=phrase("{}.", rejected[seated[0]].said),
            do="Take another, or keep it with a note.",
            stage=STAGE,
            figure=f"{STAGE}.good",
        )
    yield from _joins(groups)
    yield from _mixed(hand, by_place)
    for slip in slips([cell.number for cell in hand.cells]):
        far: Text = phrase("Cell {} is numbered far from the others", slip.number)
        if slip.meant:
            far = phrase("{}; {} may be meant", far, listed(slip.meant[:3], " or "))
        yield Finding(
            "hand-number",
            "warn",
            text=far,
            why="A number that is written twice over, or one digit off, takes another cell's "
            "readings.",
            do="Look at the wrapper.",
            stage=STAGE,
            figure=f"{STAGE}.cells",
        )


def _counts(out: list[JudgedCell], good: int, cells: int, seats: int) -> Iterator[Finding]:
    if good < seats:
        yield Finding(
            "hand-missing",
            "warn",
            text=phrase(
                "{} good cells in hand, the pack takes {}: {} are missing",
                good,
                seats,
                seats - good,
            ),
            why=phrase("{} of {} are rejected.", len(out), cells),
            do="Measure more; or a smaller pack.",
            stage=STAGE,
            figure=f"{STAGE}.good",
        )
    never = list(
        dict.fromkeys(item.cell.number for item in out for why in item.reasons if why.never)
    )
    if never:
        yield Finding(
            "hand-never",
            "warn",
            text=phrase(
                "Never charge cells {} again" if len(never) > 1 else "Never charge cell {} again",
                _listed(tuple(never)),
            ),
            why="Reversed, run down too far or vented: copper may have gone into solution, and it "
            "may short within and burn when it is charged, even much later.",
            do="Cover the poles and take it where such cells are collected.",
            stage=STAGE,
            figure=f"{STAGE}.good",
        )


def _mixed(hand: Hand, by_place: Mapping[str, HandCell]) -> Iterator[Finding]:
    """Capacities that were taken in several ways and are summed all the same."""
    used = {cell.lot for cell in by_place.values() if cell.ah is not None}
    if apart := told_apart([lot for lot in hand.lots if lot.name in used]):
        yield Finding(
            "hand-mixed",
            "warn",
            text=phrase("Capacities taken in different ways are summed: {}", apart),
            why="A cell gives less at more current and down to a higher voltage, so that these "
            "numbers are not of one kind.",
            do="Measure one lot again as the other, or group by resistance.",
            stage=STAGE,
            figure=f"{STAGE}.cells",
        )


def _joins(groups: tuple[GroupNow, ...]) -> Iterator[Finding]:
    """Groups whose cells must not be joined as they are."""
    gates = [(group, group.gate) for group in groups if group.gate is not None]
    unread = [number for _, found in gates for number in found.unread]
    if unread:
        yield Finding(
            "hand-join-unread",
            "warn",
            text=phrase(
                "{} cells that are to be joined have no voltage, the first is {}",
                len(unread),
                min(unread),
            ),
            why="What would flow between them when they are joined is not known.",
            do="Read them before any two are joined.",
            stage=STAGE,
            figure=f"{STAGE}.cells",
        )
    hot = [(group, found) for group, found in gates if found.recipe is not None]
    if not hot:
        return
    group, found = max(hot, key=lambda item: item[1].current_a)
    recipe = found.recipe
    assert recipe is not None
    more = phrase("; and in {} more groups", len(hot) - 1) if len(hot) > 1 else ""
    yield Finding(
        "hand-join",
        "stop",
        text=phrase(
            "Do not join group {}: {} would flow between cells {} and {}",
            group.number,
            say(found.current_a, "A"),
            found.high,
            found.low,
        ),
        why=phrase(
            "They are {} apart, and a cell takes {}; {} would move{}.",
            say(found.volts, "V"),
            say(found.limit_a, "A"),
            say(found.flows_ah, "Ah"),
            more,
        ),
        do=phrase(
            "Bring all to {} by a charger, up to {} each; or these two through {}, {}, for "
            "{}. Stay with them.",
            *recipe.quantities,
        ),
        stage=STAGE,
        figure=f"{STAGE}.good",
    )
