"""The library of cells: what each field means and falls back to, and what each cell would do."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace
from numpy.typing import NDArray

from lumvak.core import units
from lumvak.core.catalogue.cells import FORMS, Cell, Chemistry
from lumvak.core.cells.cell_model import charge_limit_a, minimum_capacity, resistance
from lumvak.core.checked import NotAccepted, made
from lumvak.core.said import Text, listed, phrase, say, say_exact
from lumvak.core.spelling import PLAIN, Refused, Spelling
from lumvak.core.units import Kind, QuantityError, parse

Array = NDArray[np.float64]
Fallback = Callable[[Cell], Text]
PULSE = ("pulse_a", "pulse_s")
USUAL_PULSE_S = 10.0
# Of these a cell has some and lacks the others by its shape.
SIDES = ("diameter_mm", "width_mm", "thickness_mm")
ORIGINS = ("data sheet", "measured", "guessed")


class CellProblem(Refused):
    """A change of a cell that cannot be taken; the message says what could."""


class CellField(Struct, frozen=True):
    """A field of a cell: its words, how it is typed, and what stands in where it is left out.

    ``scale`` turns what is typed in ``kind`` into what is stored. A field without ``kind`` is text.
    """

    name: str
    label: str
    kind: Kind | None = None
    scale: float = 1.0
    fallback: Fallback | None = None
    words: tuple[str, ...] = ()


def _instead(value: float, unit: str, why: Text) -> Text:
    return phrase("{}, {}", say(value, unit), why)


FIELDS = (
    CellField("name", "Name"),
    CellField("chemistry", "Chemistry"),
    CellField("format", "Format", words=FORMS),
    CellField("origin", "New or reclaimed", words=("new", "reclaimed")),
    CellField("voltage_full_v", "Full", units.VOLTAGE),
    CellField("voltage_nominal_v", "Nominal", units.VOLTAGE),
    CellField("voltage_empty_v", "Empty", units.VOLTAGE),
    CellField("capacity_typical_ah", "Capacity, typical", units.CAPACITY),
    CellField(
        "capacity_min_ah",
        "Capacity, least",
        units.CAPACITY,
        fallback=lambda cell: _instead(minimum_capacity(cell).number, "Ah", "97 % of typical"),
    ),
    CellField("continuous_a", "Continuous current", units.CURRENT),
    CellField(
        "continuous_at_c",
        "holds with the cell at",
        units.TEMPERATURE,
        fallback=lambda _: "not said: ask at which temperature it holds",
    ),
    CellField(
        "pulse_a",
        "Pulse current",
        units.CURRENT,
        fallback=lambda cell: _instead(cell.continuous_a, "A", "the continuous one"),
    ),
    CellField("pulse_s", "Pulse length", units.SECONDS, fallback=lambda _: "goes with the pulse"),
    CellField("charge_standard_a", "Charge, standard", units.CURRENT),
    CellField(
        "charge_max_a",
        "Charge, most",
        units.CURRENT,
        fallback=lambda cell: _instead(charge_limit_a(cell), "A", "the standard one"),
    ),
    CellField(
        "resistance_dc_ohm",
        "Resistance, DC after 10 s",
        units.MILLIOHM,
        1e-3,
        fallback=lambda cell: _instead(resistance(cell).number, "ohm", resistance(cell).rule),
    ),
    CellField(
        "resistance_ac_ohm",
        "Resistance at 1 kHz",
        units.MILLIOHM,
        1e-3,
        fallback=lambda _: "not used where a DC one is given",
    ),
    CellField("mass_g", "Mass", units.GRAM),
    CellField(
        "diameter_mm", "Diameter", units.LENGTH_MM, fallback=lambda _: "flat: width and thickness"
    ),
    CellField("width_mm", "Width", units.LENGTH_MM, fallback=lambda _: "round: a diameter"),
    CellField("thickness_mm", "Thickness", units.LENGTH_MM, fallback=lambda _: "round: a diameter"),
    CellField("height_mm", "Height", units.LENGTH_MM),
    CellField("discharge_min_c", "Discharge from", units.TEMPERATURE),
    CellField("discharge_max_c", "Discharge to", units.TEMPERATURE),
    CellField("charge_min_c", "Charge from", units.TEMPERATURE),
    CellField("charge_max_c", "Charge to", units.TEMPERATURE),
    CellField("cycles", "Cycles", units.COUNT, fallback=lambda _: "not said"),
    CellField("cycles_note", "Cycles, under", fallback=lambda _: "not said"),
    CellField("price", "Cost", units.MONEY),
    CellField("note", "Note", fallback=lambda _: ""),
)
BY_NAME = {field.name: field for field in FIELDS}


def field_text(field: CellField, cell: Cell) -> Text:
    """The value of a field as it would be typed; empty where it is left out."""
    value = getattr(cell, field.name)
    if value is None:
        return ""
    return str(value) if field.kind is None else say_exact(value / field.scale, field.kind.unit)


def field_value(field: CellField, text: str, spelling: Spelling = PLAIN) -> Any:
    """Read what was typed into a field; raises QuantityError. Empty is ``None`` if it may be."""
    if not text and field.fallback is not None:
        return "" if field.kind is None else None
    if field.kind is None:
        if field.words and text not in field.words:
            raise QuantityError(phrase("“{}” was given; accepted: {}", text, listed(field.words)))
        return text
    value = parse(text, field.kind, spelling)
    return int(value) if field.kind is units.COUNT else round(value * field.scale, 12)


def origin_of(cell: Cell, name: str) -> str:
    """Where a field's value comes from, in words; ``assumed`` where it is left out."""
    if getattr(cell, name) is None:
        return "assumed"
    if name in cell.measured:
        return "measured"
    return "guessed" if name in cell.guessed else "data sheet"


def changed(cell: Cell, changes: Mapping[str, Any], origin: str = "") -> Cell:
    """The cell with other values; ``origin`` is where they come from, one of ORIGINS.

    Raises CellProblem where the values do not go together.
    """
    names = set(changes) if origin else set()
    measured = tuple(
        sorted((set(cell.measured) - names) | (names if origin == "measured" else set()))
    )
    guessed = tuple(sorted((set(cell.guessed) - names) | (names if origin == "guessed" else set())))
    document = {**asdict(cell), **changes, "measured": measured, "guessed": guessed}
    try:
        return made(Cell, document)
    except NotAccepted as error:
        raise CellProblem(error.wrongs[0].sentence) from error


def with_partner(cell: Cell, name: str, value: Any) -> dict[str, Any]:
    """The change of one field, and of its partner: a pulse and its length come and go together."""
    if name not in PULSE:
        return {name: value}
    other = PULSE[1 - PULSE.index(name)]
    usual = {"pulse_a": cell.continuous_a, "pulse_s": USUAL_PULSE_S}[other]
    return {name: value, other: None if value is None else (getattr(cell, other) or usual)}


def begun_from(cell: Cell) -> Cell:
    """A new cell like ``cell``, without what only its own sheet can say; the rest is guessed."""
    silent: dict[str, Any] = {
        field.name: "" if field.kind is None else None
        for field in FIELDS
        if field.fallback is not None and field.name not in SIDES
    }
    guessed = ("capacity_typical_ah", "continuous_a", "mass_g", "price")
    return replace(cell, **silent, measured=(), guessed=guessed)


# Of the typical capacity a sheet promises so much at the least.
OF_TYPICAL = 0.97
# What is guessed of a cell of few figures where its sheet does not give it.
OFTEN_LEFT_OUT = (
    "voltage_full_v", "voltage_nominal_v", "voltage_empty_v", "continuous_a", "pulse_a",
    "charge_standard_a", "charge_max_a", "resistance_dc_ohm", "mass_g", "height_mm", "price",
)  # fmt: skip


def from_few(given: Mapping[str, Any], like: Cell) -> Cell:
    """A cell of the figures ``given``, by field; the rest is guessed after ``like``, by its size.

    ``given`` has a capacity, least or typical.
    """
    known = {name: value for name, value in given.items() if name in like.__struct_fields__}
    least = known.get("capacity_min_ah")
    typical = known.get("capacity_typical_ah") or (
        like.capacity_typical_ah if least is None else least / OF_TYPICAL
    )
    share = typical / like.capacity_typical_ah
    continuous = known.get("continuous_a", like.continuous_a * share)
    standard = known.get("charge_standard_a", like.charge_standard_a * share)
    ohm = like.resistance_dc_ohm
    after: dict[str, Any] = {
        "capacity_typical_ah": typical,
        "capacity_min_ah": None,
        "continuous_a": continuous,
        "pulse_a": max((like.pulse_a or 0.0) * share, continuous),
        "pulse_s": like.pulse_s or USUAL_PULSE_S,
        "charge_standard_a": standard,
        "charge_max_a": max((like.charge_max_a or 0.0) * share, standard),
        "resistance_dc_ohm": None if ohm is None else ohm / share,
        "resistance_ac_ohm": None,
        "curves": (),
        "pulses": (),
        "measured": (),
        "note": "",
        "sample": False,
    }
    guessed = tuple(name for name in OFTEN_LEFT_OUT if name not in known)
    return replace(like, **{**after, "guessed": guessed, **known})


def free_id(name: str, taken: Iterable[str]) -> str:
    """An id for a part made from its name, unlike all that are taken."""
    slug = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:50] or "cell"
    known = set(taken)
    number, made = 1, slug
    while made in known:
        number += 1
        made = f"{slug}-{number}"
    return made


def own_curve(chemistry: Chemistry, cell: Cell, points: Iterable[tuple[float, float]]) -> Chemistry:
    """A chemistry of the cell's own with a rest voltage by ``points`` of charge and volts.

    Raises CellProblem where the points make no curve.
    """
    ordered = tuple(sorted((float(charge), float(volts)) for charge, volts in points))
    try:
        return made(
            Chemistry,
            {
                "id": cell.chemistry
                if cell.chemistry.startswith("own-")
                else free_id(f"own {cell.id}", ()),
                "name": f"{cell.name}, own curve",
                "family": chemistry.family,
                "curve": ordered,
                "curve_source": "points entered by the builder",
            },
        )
    except NotAccepted as error:
        raise CellProblem(error.wrongs[0].sentence) from error


def parse_points(text: str) -> list[tuple[float, float]]:
    """Read lines of charge, in percent or as a share, and volts; units are left aside.

    A first line without numbers is a header. Raises QuantityError naming the line.
    """
    pairs = []
    for number, line in enumerate(text.splitlines(), start=1):
        found = re.findall(r"[+\-\u2212]?\d+(?:[.,]\d+)?", line)
        if not line.strip() or (not found and number == 1):
            continue
        if len(found) != 2:
            raise QuantityError(
                phrase(
                    "line {}, “{}”: wanted are two numbers, such as 50 % 3.65 V",
                    number,
                    line.strip(),
                )
            )
        first, second = (float(item.replace(",", ".").replace("\u2212", "-")) for item in found)
        pairs.append((first, second))
    most = max((charge for charge, _ in pairs), default=0.0)
    scale = 100.0 if most > 1.0 else 1.0
    return [(charge / scale, volts) for charge, volts in pairs]


class Check(Struct, frozen=True):
    """One thing that a data sheet should say: whether it does, and in which words."""

    text: Text
    said: bool


def sheet_checklist(cell: Cell) -> tuple[Check, ...]:
    """What a data sheet should say, and at which cell temperature its maximum holds."""
    hot = cell.continuous_at_c
    return (
        Check(
            "least capacity, with the current it was measured at", cell.capacity_min_ah is not None
        ),
        Check(
            phrase("its {} hold with the cell at {}", say(cell.continuous_a, "A"), say(hot, "°C"))
            if hot is not None
            else phrase("at which cell temperature its {} hold", say(cell.continuous_a, "A")),
            hot is not None,
        ),
        Check("a pulse current with its length", cell.pulse_a is not None),
        Check("the most charge current, besides the standard one", cell.charge_max_a is not None),
        Check(
            "DC resistance, with time and charge; 1 kHz alone reads low",
            cell.resistance_dc_ohm is not None,
        ),
        Check("cycles, with current, temperature and end of life", cell.cycles is not None),
    )
