"""What the builder says of the arrangement: the room, what is kept free, cells moved by hand."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, JsonValue, model_validator

from lumvak.core.record import Document, PartId

RoomKind = Literal["none", "box", "outline", "round"]
Rows = Literal["straight", "nested"]
Axis = Literal["up", "along", "across"]
Millimetre = Annotated[float, Field(ge=-5000, le=5000, allow_inf_nan=False)]
PartKind = Literal["board", "leads", "sensor", "foam", "air", "other"]
Stands = Literal["floor", "lid"]
Side = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
Corner = tuple[Millimetre, Millimetre]
MM: dict[str, JsonValue] = {"unit": "mm"}


class Hole(Document):
    """A round place that no cell may reach: a screw, a boss."""

    x_mm: Millimetre = 0.0
    y_mm: Millimetre = 0.0
    diameter_mm: Side = 6.0


class Room(Document):
    """Where the pack has to go, seen from above; ``none`` sets no limit."""

    kind: RoomKind = Field(default="none", title="Room")
    length_mm: Side = Field(default=320.0, title="Length", json_schema_extra=MM)
    width_mm: Side = Field(default=160.0, title="Width", json_schema_extra=MM)
    diameter_mm: Side = Field(default=50.0, title="Diameter", json_schema_extra=MM)
    height_mm: Side | None = Field(default=None, title="Height", json_schema_extra=MM)
    outline: tuple[Corner, ...] = Field(default=(), title="Outline", max_length=2000)
    cut_outs: tuple[tuple[Corner, ...], ...] = Field(
        default=(), title="Cut-outs", max_length=200
    )  # fmt: skip
    holes: tuple[Hole, ...] = Field(default=(), title="Holes", max_length=200)


class KeptFree(Document):
    """A part that takes room beside the cells; the corner nearest the origin and its size.

    Without ``height_mm`` it takes all the height there is; else it ``stands`` on the floor, or
    lies over the cells, under the lid. ``mass_g`` is what it weighs where that was said.
    """

    name: str = Field(default="board", title="Name", min_length=1, max_length=60)
    kind: PartKind = Field(default="other", title="What it is")
    x_mm: Millimetre = Field(default=0.0, title="x", json_schema_extra=MM)
    y_mm: Millimetre = Field(default=0.0, title="y", json_schema_extra=MM)
    length_mm: Side = Field(default=60.0, title="Length", json_schema_extra=MM)
    width_mm: Side = Field(default=20.0, title="Width", json_schema_extra=MM)
    height_mm: Side | None = Field(default=None, title="Height", json_schema_extra=MM)
    stands: Stands = Field(default="floor", title="Stands")
    mass_g: Annotated[float, Field(ge=0, le=1e5)] | None = Field(
        default=None, title="Weight", json_schema_extra={"unit": "g"}
    )

    @property
    def is_board(self) -> bool:
        """Whether it is the BMS: by its kind, or where that was not said by its name."""
        named = self.kind == "other" and {"board", "bms"} & set(self.name.lower().split())
        return self.kind == "board" or bool(named)


class CellBlock(Document):
    """Cells side by side that point one way; the corner nearest the origin, columns and rows."""

    x_mm: Millimetre = 0.0
    y_mm: Millimetre = 0.0
    columns: int = Field(default=1, ge=1, le=200)
    rows: int = Field(default=1, ge=1, le=200)
    axis: Axis = "up"


class Spot(Document):
    """One cell where the builder put it; ``turned`` has its positive end the other way."""

    group: int = Field(ge=1, le=300)
    x_mm: Millimetre
    y_mm: Millimetre
    layer: int = Field(default=0, ge=0, le=20)
    axis: Axis = "up"
    turned: bool = False


class Arrangement(Document):
    """How the cells lie; without ``spots`` the pack follows the proposal named by ``way``."""

    room: Room = Room()
    rows: Rows = Field(default="straight", title="Rows")
    axis: Axis = Field(default="up", title="Cells stand or lie")
    holder: PartId | None = Field(default=None, title="Holder")
    pitch_mm: Side | None = Field(default=None, title="Pitch of the holder", json_schema_extra=MM)
    between_mm: Annotated[float, Field(ge=0, le=100)] | None = Field(
        default=None, title="Between layers", json_schema_extra=MM
    )
    swell_share: Annotated[float, Field(ge=0, le=0.5)] | None = Field(
        default=None, title="Flat cells grow by", json_schema_extra={"unit": "%"}
    )
    plate_mm: Annotated[float, Field(gt=0, le=50)] | None = Field(
        default=None, title="Compression plates", json_schema_extra=MM
    )
    wall_mm: float = Field(
        default=2.0, title="Free to the wall", ge=0, le=100, json_schema_extra=MM
    )
    kept_free: tuple[KeptFree, ...] = Field(default=(), title="Parts in the room", max_length=40)
    blocks: tuple[CellBlock, ...] = Field(default=(), title="Blocks of cells", max_length=40)
    way: str | None = Field(default=None, title="Proposal", max_length=40)
    spots: tuple[Spot, ...] = Field(default=(), title="Cells placed by hand", max_length=20_000)
    barrier_v: float = Field(
        default=10.0,
        title="Barrier over",
        ge=0,
        le=1000,
        json_schema_extra={"unit": "V"},
    )

    @model_validator(mode="after")
    def _outline_when_asked(self) -> Self:
        if self.room.outline and len(self.room.outline) < 3:
            raise ValueError("Outline: fewer than three corners; accepted: three or more, or none")
        return self
