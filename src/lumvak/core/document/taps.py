"""Balance leads: what they are, which sit in their place, and what was read on them."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, JsonValue, model_validator

from lumvak.core.record import Document

MOST_LEADS = 401
END = r"^(main minus|main plus|(lead|joint) (0|[1-9][0-9]{0,2}))$"
END_LIKE: dict[str, JsonValue] = {"like": "lead 3, joint 3, main minus or main plus"}
COLOURS = ("black", "white", "blue", "yellow", "green")
Millimetres = Annotated[float, Field(ge=-1e4, le=1e4)]
Colour = Annotated[str, Field(min_length=1, max_length=20)]


class TapTotal(Document):
    """What was read from main minus to a lead; ``volts`` is ``None`` where it read nothing."""

    lead: int = Field(title="Lead", ge=0, lt=MOST_LEADS)
    volts: float | None = Field(default=None, title="Running total", ge=-1e3, le=1e5)


class TapBetween(Document):
    """What was read between two ends: leads, joints or the pack's poles."""

    start: str = Field(title="From", pattern=END, json_schema_extra=END_LIKE)
    end: str = Field(title="To", pattern=END, json_schema_extra=END_LIKE)
    volts: float = Field(title="Between", ge=-1e3, le=1e4)


class TapWay(Document):
    """The way of a lead as the builder lays it: corners in mm between its joint and the board."""

    lead: int = Field(title="Lead", ge=0, lt=MOST_LEADS)
    corners: tuple[tuple[Millimetres, Millimetres], ...] = Field(
        default=(), title="Corners", max_length=20
    )


class TapModule(Document):
    """A brick of the pack with plugs of its own: its next groups, from the most negative on."""

    name: str = Field(default="brick", title="Name", min_length=1, max_length=30)
    groups: int = Field(default=1, title="Groups", ge=1, le=MOST_LEADS)
    plugs: int = Field(default=1, title="Plugs", ge=1, le=8)


class BalanceLeads(Document):
    """The thin leads from every joint to the board.

    ``colours`` are those at hand, from lead 0 on and again from the first; ``group_v`` is what
    each group has now, where cells were not measured.
    """

    area_mm2: float = Field(
        default=0.205, title="Section", gt=0, le=10, json_schema_extra={"unit": "mm²"}
    )
    fuse_a: float | None = Field(
        default=None, title="Fuse in each", gt=0, le=50, json_schema_extra={"unit": "A"}
    )
    colours: tuple[Colour, ...] = Field(
        default=COLOURS, title="Colours", min_length=1, max_length=40
    )
    spare_mm: float = Field(
        default=60.0, title="For both ends", ge=0, le=2000, json_schema_extra={"unit": "mm"}
    )
    group_v: float | None = Field(
        default=None, title="A group has now", gt=0, le=6, json_schema_extra={"unit": "V"}
    )
    ways: tuple[TapWay, ...] = Field(default=(), title="Ways", max_length=MOST_LEADS)
    modules: tuple[TapModule, ...] = Field(default=(), title="Bricks", max_length=40)
    soldered: tuple[int, ...] = Field(default=(), title="In their place", max_length=MOST_LEADS)
    totals: tuple[TapTotal, ...] = Field(default=(), title="Readings", max_length=MOST_LEADS)
    more: tuple[TapBetween, ...] = Field(default=(), title="Further readings", max_length=40)

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        for title, leads in (("Readings", [item.lead for item in self.totals]),
                             ("Ways", [item.lead for item in self.ways])):  # fmt: skip
            if len(set(leads)) < len(leads):
                raise ValueError(f"{title}: one lead is there twice; accepted: each once")
        return self
