"""What the builder says of the joints: strips, patterns, leads, and what a strip may carry."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lumvak.core.document.power import School
from lumvak.core.record import Document, PartId

TakeOff = Literal["end", "middle", "spread"]
Pattern = Literal["strips", "crossed", "sheet", "tabs", "wire"]
Scheme = Literal["groups", "strings-ends", "strings-levels"]
Joining = Literal["weld", "solder", "cap", "screw"]


class Strip(Document):
    """The conductor of one kind of joint; ``part`` ``None`` follows the recommendation."""

    part: PartId | None = Field(default=None, title="Conductor")
    width_mm: float | None = Field(
        default=None, title="Width", gt=0, le=500, json_schema_extra={"unit": "mm"}
    )
    layers: int | None = Field(default=None, title="Layers", ge=1, le=12)
    strips: int | None = Field(default=None, title="Strips side by side", ge=1, le=500)


TerminalName = Annotated[str, Field(pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}[pn]$")]


class PieceChange(Document):
    """One piece of strip between two terminals that differs from the rest.

    ``layers`` 0 leaves it out; a pair that the pattern does not join is added as a piece.
    """

    a: TerminalName
    b: TerminalName
    layers: int = Field(default=1, ge=0, le=12)


class LeadPoint(Document):
    """Where one main lead leaves the strips: at a cell of the end group, or on the way to one."""

    pole: Literal["+", "-"]
    cell: int = Field(ge=1, le=500)
    toward: int | None = Field(default=None, ge=1, le=500)
    share: float = Field(default=0.0, ge=0, le=1)


class Joints(Document):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Strip = Strip()
    series: Strip = Strip()
    scheme: Scheme = Field(default="groups", title="Groups or strings")
    side_a: Pattern = Field(default="strips", title="Side A")
    side_b: Pattern = Field(default="strips", title="Side B")
    joining: Joining | None = Field(default=None, title="Joined by")
    weld_points: int = Field(default=4, title="Weld points per cell", ge=1, le=40)
    contact_mohm: float | None = Field(
        default=None, title="One joint on a cell", gt=0, le=100, json_schema_extra={"unit": "mΩ"}
    )
    contact_limit_a: float | None = Field(
        default=None,
        title="A joint on a cell carries",
        gt=0,
        le=1000,
        json_schema_extra={"unit": "A"},
    )
    link_a: float | None = Field(
        default=None, title="Fusible link per cell", gt=0, le=200, json_schema_extra={"unit": "A"}
    )
    link_mohm: float | None = Field(
        default=None, title="Resistance of a link", gt=0, le=1000, json_schema_extra={"unit": "mΩ"}
    )
    wire_mm2: float | None = Field(
        default=None, title="Wire between cells", gt=0, le=200, json_schema_extra={"unit": "mm²"}
    )
    changes: tuple[PieceChange, ...] = Field(default=(), title="Pieces changed", max_length=5000)
    lead_points: tuple[LeadPoint, ...] = Field(default=(), title="Main leads at", max_length=40)
    take_off: TakeOff = Field(default="middle", title="Main lead leaves from")
    gap_mm: float = Field(
        default=1.5, title="Gap between cells", ge=0, le=50, json_schema_extra={"unit": "mm"}
    )
    welder_limit_mm: float = Field(
        default=0.2,
        title="Thickest nickel the welder joins",
        gt=0,
        le=5,
        json_schema_extra={"unit": "mm"},
    )
    school: School = Field(default="temperature", title="What a strip carries")
    rise_limit_k: float = Field(
        default=20.0, title="Rise over the cell", gt=0, le=100, json_schema_extra={"unit": "K"}
    )
    rule_a_per_mm2: float = Field(
        default=5.0, title="Rule, nickel", gt=0, le=100, json_schema_extra={"unit": "A/mm²"}
    )
    weld_k_per_w: float | None = Field(
        default=None,
        title="Heat through a joint on a cell",
        ge=0,
        le=1000,
        json_schema_extra={"unit": "K/W"},
    )
    loss_mv: float = Field(
        default=20.0, title="Loss per joint", gt=0, le=1000, json_schema_extra={"unit": "mV"}
    )
