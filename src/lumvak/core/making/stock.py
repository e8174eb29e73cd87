"""What a cut list takes from rolls and sheets, with the least waste that was found."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from msgspec import Struct

from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.document.making import Making
from lumvak.core.joints.piece_sections import MATERIAL_LIST
from lumvak.core.making.cut_lines import CutLine
from lumvak.core.making.cut_list import SHEET, STRIP, WIRE_FORM
from lumvak.core.said import Text


class Stock(Struct, frozen=True):
    """What one conductor takes: metres cut, stock opened, left over, grams and price.

    ``plan`` lists the pieces of each roll or sheet in mm; ``least`` is a bound on the stock that
    no plan can beat.
    """

    part: Text
    form: str
    cut_m: float
    units: int
    unit_mm: float
    least: int
    left_m: float
    mass_g: float
    price: float
    plan: tuple[tuple[float, ...], ...]
    too_long_mm: float


def stocks_of(
    lines: Sequence[CutLine], conductors: Mapping[str, Conductor], making: Making
) -> tuple[Stock, ...]:
    """What each conductor takes from its stock, with the least waste that was found."""
    by_part: dict[tuple[str, str, float], list[CutLine]] = defaultdict(list)
    for line in lines:
        size = line.size
        across = size.width_mm if size.form == WIRE_FORM else size.thickness_mm
        by_part[size.part_id, size.form, across].append(line)
    found = []
    for (part_id, form, _), own in sorted(by_part.items()):
        part = conductors.get(part_id)
        unit = (
            making.sheet_mm
            if form == SHEET or (part and part.form != STRIP)
            else (making.roll_m * 1000.0)
        )
        stock_width = part.width_mm if part is not None else own[0].size.width_mm
        lengths = [length for line in own for length in _lengths(line, stock_width)]
        too_long = max((length for length in lengths if length > unit), default=0.0)
        fitting = [length for length in lengths if length <= unit]
        plan, least = packed(fitting, unit)
        total = sum(lengths)
        density = next(
            item.density_kg_per_m3 for item in MATERIAL_LIST if item.name == own[0].size.material
        )
        found.append(
            Stock(
                part=own[0].size.part,
                form=form,
                cut_m=total / 1000.0,
                units=len(plan),
                unit_mm=unit,
                least=least,
                left_m=(len(plan) * unit - sum(fitting)) / 1000.0,
                mass_g=sum(_volume_mm3(line) * line.count for line in own) * density * 1e-6,
                price=0.0 if part is None else part.price_per_m * total / 1000.0,
                plan=tuple(tuple(item) for item in plan),
                too_long_mm=too_long,
            )
        )
    return tuple(found)


def _volume_mm3(line: CutLine) -> float:
    if line.size.form == WIRE_FORM:
        # The copper inside the insulation, from the outer diameter (methods 11).
        from lumvak.core.conductors.lead_wire import INSULATION_MM, STRAND_FACTOR

        bare = (line.size.width_mm - INSULATION_MM) / STRAND_FACTOR
        return math.pi * bare**2 / 4.0 * line.size.length_mm
    return line.size.thickness_mm * line.size.width_mm * line.size.length_mm


def _lengths(line: CutLine, stock_width_mm: float) -> list[float]:
    """The stock that equal pieces take, as lengths: narrow ones lie side by side in its width."""
    if line.size.form == WIRE_FORM:
        return [line.size.length_mm] * line.count
    beside = max(1, math.floor(stock_width_mm / line.size.width_mm + 1e-6))
    if line.size.width_mm > stock_width_mm * (1.0 + 1e-6):
        # A plate wider than its stock is made of lanes, each as long.
        return [line.size.length_mm] * (
            line.count * math.ceil(line.size.width_mm / stock_width_mm - 1e-6)
        )
    return [line.size.length_mm] * math.ceil(line.count / beside)


class CutPlan(NamedTuple):
    """Lengths by the unit they are cut from, and how many units no plan does without."""

    units: list[list[float]]
    least: int


def packed(lengths: Sequence[float], unit: float) -> CutPlan:
    """Pieces on as few units as were found (longest first, into the fullest that takes it).

    ``lengths`` and the length of a ``unit`` are in one measure. Also returns the bound that no plan
    can beat: total length, or pieces over half a unit.
    """
    units: list[list[float]] = []
    room: list[float] = []
    for length in sorted(lengths, reverse=True):
        fits = [place for place, left in enumerate(room) if left >= length - 1e-9]
        if fits:
            place = min(fits, key=lambda item: room[item])
            units[place].append(length)
            room[place] -= length
        else:
            units.append([length])
            room.append(unit - length)
    least = max(
        math.ceil(sum(lengths) / unit - 1e-9), sum(length > unit / 2.0 for length in lengths)
    )
    return CutPlan(units, least)
