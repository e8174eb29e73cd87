"""What the builder says of the joints: strips, patterns, leads, and what a strip may carry."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumvak.core.document.power import School
from lumvak.core.record import Document, PartId

TakeOff = Literal["end", "middle", "spread"]
Pattern = Literal["strips", "crossed", "sheet", "tabs", "wire"]
Scheme = Literal["groups", "strings-ends", "strings-levels"]
Thread = Literal["M4", "M5", "M6", "M8"]
Across = Literal["wire", "fold"]
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


class WeldRead(Document):
    """A test joint on scrap: its resistance, or the drop over it at a current; what a pull did.

    ``pulled`` is “torn” where the strip tore and left metal on the cell, “clean” where it came off.
    """

    mohm: float | None = Field(default=None, title="Test joint reads", gt=0, le=1000,
                               json_schema_extra={"unit": "mΩ"})  # fmt: skip
    drop_mv: float | None = Field(default=None, title="Drop over the joint", gt=0, le=1e5,
                                  json_schema_extra={"unit": "mV"})  # fmt: skip
    current_a: float | None = Field(default=None, title="At a current", gt=0, le=1e4,
                                    json_schema_extra={"unit": "A"})  # fmt: skip
    pulled: Literal["", "torn", "clean"] = Field(default="", title="Pulled off")

    @model_validator(mode="after")
    def _says_something(self) -> Self:
        if self.drop_mv is not None and self.current_a is None:
            raise ValueError("At a current: a drop was given alone; accepted: a current beside it")
        if self.mohm is None and self.drop_mv is None and not self.pulled:
            raise ValueError("Test joint reads: nothing was given; accepted: a resistance, a drop "
                             "at a current, or what a pull did")  # fmt: skip
        return self

    @property
    def read_mohm(self) -> float | None:
        """Its resistance in mohm, ``None`` where it was only pulled."""
        if self.mohm is not None or self.drop_mv is None or self.current_a is None:
            return self.mohm
        return self.drop_mv / self.current_a


class WeldTest(Document):
    """Joints made on scrap before the pack's; ``points`` are the weld points of each."""

    points: int | None = Field(default=None, title="Points of a test weld", ge=1, le=40)
    current_a: float | None = Field(default=None, title="Drop read at", gt=0, le=1e4,
                                    json_schema_extra={"unit": "A"})  # fmt: skip
    reads: tuple[WeldRead, ...] = Field(default=(), title="Test joints", max_length=200)


class Joints(Document):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Strip = Strip()
    series: Strip = Strip()
    scheme: Scheme = Field(default="groups", title="Groups or strings")
    side_a: Pattern = Field(default="strips", title="Side A")
    side_b: Pattern = Field(default="strips", title="Side B")
    across: Across = Field(default="wire", title="Between layers")
    joining: Joining | None = Field(default=None, title="Joined by")
    thread: Thread | None = Field(default=None, title="Thread of the posts")
    slot_mm: float = Field(
        default=1.0, title="Slot for growth", ge=0, le=20, json_schema_extra={"unit": "mm"}
    )
    bridge: PartId | None = Field(default=None, title="Nickel bridges")
    window_mm: float | None = Field(
        default=None, title="Windows in plates", ge=2, le=60, json_schema_extra={"unit": "mm"}
    )
    weld_points: int = Field(default=4, title="Weld points per cell", ge=1, le=40)
    contact_mohm: float | None = Field(
        default=None, title="One joint on a cell", gt=0, le=100, json_schema_extra={"unit": "mΩ"}
    )
    weld_test: WeldTest = Field(WeldTest(), title="Test joints")
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
    least_mm: float | None = Field(
        default=None,
        title="Least distance of bare metal",
        ge=0.1,
        le=50,
        json_schema_extra={"unit": "mm"},
    )
    barrier_mm: float | None = Field(
        default=None,
        title="Barrier under pieces that cross",
        gt=0,
        le=10,
        json_schema_extra={"unit": "mm"},
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
