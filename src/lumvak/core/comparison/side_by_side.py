"""Side by side: the pack in hand, up to three others, and the pack that is replaced."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from msgspec import Struct

from lumvak.core.document.need import Need
from lumvak.core.said import Text, digits, phrase, round_figures, say, say_hours
from lumvak.core.sizing.counts import NEED_NAMES, NEEDS, serving
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.sized_pack import SizedPack

# A difference smaller than this share is not told.
TOLD = 0.02


class ComparedValue(Struct, frozen=True):
    """A value in a column: its words, and how it differs from that of the pack in hand.

    ``better`` is 1 or -1 where it is better or worse, 0 where that is a matter of taste.
    """

    text: Text
    difference: Text = ""
    better: int = 0


class ComparedColumn(Struct, frozen=True):
    """One column: what it is called, which pack it is (``None`` for the replaced one), entries."""

    title: str
    subtitle: Text
    pack: tuple[str, int, int] | None
    entries: tuple[ComparedValue, ...]
    serves: bool


class ComparedRow(Struct, frozen=True):
    """A row: its words, unit, figure in hand, and whether more is better (0 is neither)."""

    name: str
    unit: str
    figure: str
    more: int


MEASURES = (
    ComparedRow("full", "V", "pack.voltage_full_v", 0),
    ComparedRow("nominal", "V", "pack.voltage_nominal_v", 0),
    ComparedRow("empty", "V", "pack.voltage_empty_v", 0),
    ComparedRow("capacity", "Ah", "pack.capacity_ah", 1),
    ComparedRow("usable after ageing", "Ah", "pack.usable_ah", 1),
    ComparedRow("energy", "Wh", "pack.energy_wh", 1),
    ComparedRow("runs", "h", "pack.runtime_h", 1),
    ComparedRow("cells", "", "pack.cell_count", -1),
    ComparedRow("mass of the cells", "kg", "pack.mass_kg", -1),
    ComparedRow("cost of the cells", "money", "pack.cost", -1),
    ComparedRow("volume of the cells", "l", "pack.volume_l", -1),
    ComparedRow("per cell", "A", "pack.current_per_cell_a", -1),
    ComparedRow("headroom", "%", "pack.headroom", 1),
    ComparedRow("cells at the end", "°C", "heat.temperature_end_c", -1),
)


def side_by_side(
    sized_pack: SizedPack, need: Need, packs: Sequence[tuple[str, int, int]]
) -> tuple[ComparedColumn, ...]:
    """Columns for ``packs`` (cell id, series, parallel), the first being the one in hand.

    The replaced pack stands last where any of its figures is known. Packs are shown whether they
    serve or not; cells that nobody has are passed over.
    """
    table = sized_pack.table
    rows = [(table.row_of(pack[0]), pack) for pack in packs]
    known = [(row, pack) for row, pack in rows if row is not None]
    columns = [
        _values(sized_pack, sized_pack.one(row, series, parallel))
        for row, (_, series, parallel) in known
    ]
    sides = []
    for (row, pack), (values, note, serves) in zip(known, columns, strict=True):
        name, (_, series, parallel) = table.cells[row].name, pack
        sides.append(
            ComparedColumn(
                f"{series}S{parallel}P",
                phrase("{}, {}", name, note),
                pack,
                tuple(
                    _entry(value, columns[0][0][place], measure)
                    for place, (value, measure) in enumerate(zip(values, MEASURES, strict=True))
                ),
                serves,
            )
        )
    old = _replaced(need)
    if old is not None and columns:
        entries = tuple(
            _entry(old.get(measure.name), columns[0][0][place], measure)
            for place, measure in enumerate(MEASURES)
        )
        sides.append(ComparedColumn("replaced", "the old pack, as a whole", None, entries, True))
    return tuple(sides)


class _Measured(NamedTuple):
    """The measures of a pack, what sets it or what it fails on, whether it serves."""

    values: list[float]
    note: Text
    serves: bool


def _values(sized_pack: SizedPack, one: Options) -> _Measured:
    """The measures of one pack, what sets it or what it fails on, and whether it serves."""
    cell, series, parallel = one.cell(0), float(one.series[0]), float(one.parallel[0])
    largest = max(NEEDS, key=lambda name: float(one.needs[name][0]))
    full = series * cell.voltage_full_v
    values = [
        full,
        series * cell.voltage_nominal_v,
        series * cell.voltage_empty_v,
        float(one.capacity_ah[0]),
        float(one.usable_ah[0]),
        float(one.energy_wh[0]),
        float(one.runtime_h[0]),
        series * parallel,
        float(one.mass_kg[0]),
        float(one.cost[0]),
        float(one.volume_l[0]),
        float(one.current_a[0]) / parallel,
        float(one.headroom[0]),
        float(one.warmest_c[0]),
    ]
    fits = full <= sized_pack.demand.window.highest.number + 1e-9
    serves = fits and bool(serving(dict(one.needs), one.usable, parallel, sized_pack.terms)[0])
    met = float(one.needs[largest][0]) <= parallel + 1e-9
    if serves:
        note: Text = phrase("set by {}", NEED_NAMES[largest])
    elif met and not fits:
        note = "fails on its full voltage"
    elif met:
        note = "fails on usable charge"
    else:
        note = phrase("fails on {}", NEED_NAMES[largest])
    return _Measured(values, note, serves)


def _replaced(need: Need) -> dict[str, float] | None:
    given = {
        "nominal": need.replaced_voltage_v,
        "capacity": need.replaced_capacity_ah,
        "mass of the cells": need.replaced_mass_kg,
    }
    known = {name: value for name, value in given.items() if value is not None}
    if not known:
        return None
    if need.replaced_voltage_v is not None and need.replaced_capacity_ah is not None:
        known["energy"] = need.replaced_voltage_v * need.replaced_capacity_ah
    return known


def _entry(value: float | None, in_hand: float, measure: ComparedRow) -> ComparedValue:
    if value is None:
        return ComparedValue("—")
    if measure.unit == "%":
        text, gap = say(value, "%"), value - in_hand
        told = phrase("{} points", digits(gap * 100, "+.0f")) if abs(gap) >= TOLD else ""
    elif measure.unit == "°C":
        gap = value - in_hand
        text, told = (
            say(value, "°C"),
            phrase("{} K", digits(gap, "+.1f")) if abs(gap) >= 0.5 else "",
        )
    else:
        gap = value / in_hand - 1.0 if in_hand else 0.0
        told = phrase("{} %", digits(gap * 100, "+.0f")) if abs(gap) >= TOLD else ""
        text = say_hours(value) if measure.unit == "h" else _plain(value, measure.unit)
    better = (1 if gap > 0 else -1) * measure.more if told else 0
    return ComparedValue(text, told, better)


def _plain(value: float, unit: str) -> Text:
    if unit == "money":
        return say(value, unit)
    if unit == "":
        return f"{value:.0f}"
    return phrase("{} {}", round_figures(value), unit)
