"""Cells in hand: lots, what was measured on each cell, how they are grouped, where each goes."""

from __future__ import annotations

from collections import Counter
from operator import attrgetter
from typing import Literal, Self

from pydantic import Field, JsonValue, model_validator

from lumvak.core.record import Document

Origin = Literal["new", "reclaimed", "used"]
By = Literal["capacity", "resistance", "both", "voltage"]
MOST_CELLS = 20_000
PLACE = r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}$"
DAY = r"^(|[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01]))$"
DAY_LIKE: dict[str, JsonValue] = {"like": "a day such as 2026-05-31"}


class Lot(Document):
    """Cells that came together: what they are said to be, and how they were measured.

    ``pulse_s``, ``pulse_charge`` and ``pulse_c`` say how a DC resistance was taken, ``capacity_a``
    and ``capacity_to_v`` a capacity.
    """

    name: str = Field(default="lot 1", title="Lot", min_length=1, max_length=60)
    cell: str | None = Field(default=None, title="Said to be")
    origin: Origin = Field(default="used", title="Origin")
    day: str = Field(
        default="", title="Date", max_length=10, pattern=DAY, json_schema_extra=DAY_LIKE
    )
    word: str = Field(default="", title="Supplier's word", max_length=500)
    resistance_by: Literal["dc", "ac"] = Field(default="dc", title="Resistance measured")
    pulse_s: float | None = Field(
        default=None, title="Pulse", gt=0, le=3600, json_schema_extra={"unit": "s"}
    )
    pulse_charge: float | None = Field(
        default=None, title="Charge at the pulse", ge=0, le=1, json_schema_extra={"unit": "%"}
    )
    pulse_c: float | None = Field(
        default=None, title="Cell at the pulse", ge=-40, le=90, json_schema_extra={"unit": "°C"}
    )
    capacity_a: float | None = Field(
        default=None, title="Capacity taken at", ge=1e-3, le=1e4, json_schema_extra={"unit": "A"}
    )
    capacity_to_v: float | None = Field(
        default=None, title="Capacity taken to", gt=0, le=6, json_schema_extra={"unit": "V"}
    )


class HandCell(Document):
    """A cell in hand: its number, on its wrapper, and what was measured; ``None`` is not known.

    ``later_v`` is a second rest voltage, ``days`` after the first. ``verdict`` overrules what is
    judged, with ``why``.
    """

    number: int = Field(title="Number", ge=1, le=999_999)
    lot: str = Field(default="lot 1", title="Lot", min_length=1, max_length=60)
    volts: float | None = Field(default=None, title="At rest", ge=-6, le=6)
    later_v: float | None = Field(default=None, title="Later", ge=-6, le=6)
    days: float | None = Field(default=None, title="Days between", gt=0, le=10_000)
    ah: float | None = Field(default=None, title="Capacity", gt=0, le=1e4)
    mohm: float | None = Field(default=None, title="Resistance", gt=0, le=1e5)
    grams: float | None = Field(default=None, title="Weight", gt=0, le=1e5)
    remark: str = Field(default="", title="Remark", max_length=200)
    photo: str = Field(default="", title="Photograph", max_length=500)
    verdict: Literal["", "keep", "reject"] = Field(default="", title="Overruled")
    why: str = Field(default="", title="Why", max_length=200)


class Meter(Document):
    """The builder's voltmeter: so much of the reading and so many of its last digits.

    ``counts`` is the largest number that it shows.
    """

    percent: float = Field(default=0.005, title="Of the reading", ge=0, le=0.2,
                           json_schema_extra={"unit": "%"})  # fmt: skip
    digits: int = Field(default=2, title="Digits", ge=0, le=100)
    counts: int = Field(default=6000, title="Counts", ge=100, le=10_000_000)
    ohm_percent: float = Field(default=0.02, title="Of a resistance", ge=0, le=0.5,
                               json_schema_extra={"unit": "%"})  # fmt: skip
    ah_percent: float = Field(default=0.01, title="Of a capacity", ge=0, le=0.5,
                              json_schema_extra={"unit": "%"})  # fmt: skip


class Placed(Document):
    """Which cell sits, or is to sit, at a place of the pack."""

    number: int = Field(ge=1, le=999_999)
    cell: str = Field(title="Place", pattern=PLACE,
                      json_schema_extra={"like": "a place such as g3c2"})  # fmt: skip


class OldGroup(Document):
    """A group of an old pack as it was measured, in the order from the most negative."""

    ah: float | None = Field(default=None, title="Capacity", gt=0, le=1e5)
    mohm: float | None = Field(default=None, title="Resistance", gt=0, le=1e5)
    volts: float | None = Field(default=None, title="At rest", gt=0, le=6)


class OldPack(Document):
    """A pack in use that the new cells are joined to, group to group; none without groups.

    ``years`` is how long it has been in use, ``ratio`` how far apart the resistance of equal
    capacities of both may be.
    """

    cell: str | None = Field(default=None, title="Old cells are")
    parallel: int | None = Field(default=None, title="Old cells in parallel", ge=1, le=400)
    years: float | None = Field(default=None, title="In use for", ge=0, le=50,
                                json_schema_extra={"unit": "years"})  # fmt: skip
    ratio: float = Field(default=2.0, title="Resistances apart at most", ge=1, le=20)
    groups: tuple[OldGroup, ...] = Field(default=(), title="Old groups", max_length=400)


class Hand(Document):
    """All cells in hand, and how they are dealt into groups."""

    meter: Meter = Meter()
    lots: tuple[Lot, ...] = Field(default=(Lot(),), title="Lots", min_length=1, max_length=50)
    cells: tuple[HandCell, ...] = Field(default=(), title="Cells in hand", max_length=MOST_CELLS)
    by: By = Field(default="capacity", title="Grouped by")
    seed: int = Field(default=1, title="Seed", ge=0, le=2**31)
    pins: tuple[Placed, ...] = Field(default=(), title="Kept in place", max_length=MOST_CELLS)
    apart: tuple[tuple[int, ...], ...] = Field(default=(), title="Kept apart", max_length=200)
    placed: tuple[Placed, ...] = Field(default=(), title="Placed", max_length=MOST_CELLS)
    soldered: tuple[int, ...] = Field(default=(), title="In their place", max_length=MOST_CELLS)
    old: OldPack = Field(OldPack(), title="Old pack")

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        names = [lot.name for lot in self.lots]
        if len(set(names)) < len(names):
            raise ValueError("Lots: two have the same name; accepted: a name for each")
        numbers = [*map(attrgetter("number"), self.cells)]
        if len(set(numbers)) < len(numbers):
            twice = next(number for number, times in Counter(numbers).items() if times > 1)
            raise ValueError(
                f"Cells in hand: number {twice} is there already; accepted: a number for each, "
                "never used again"
            )
        unknown = {*map(attrgetter("lot"), self.cells)} - set(names)
        if unknown:
            raise ValueError(
                f"Cells in hand: no lot is called “{min(unknown)}”; accepted: one of the lots"
            )
        for title, wanted in (("Kept in place", self.pins), ("Placed", self.placed)):
            for kind, values in (("cell", [item.number for item in wanted]),
                                 ("place", [item.cell for item in wanted])):  # fmt: skip
                if len(set(values)) < len(values):
                    raise ValueError(f"{title}: one {kind} is there twice; accepted: each once")
        return self
