"""What the builder says of the arrangement: the room, what is kept free, cells moved by hand."""

from typing import Annotated, Literal

from lumvak.core.record import Document, PartId, Unfit, about

RoomKind = Literal["none", "box", "outline", "round"]
Rows = Literal["straight", "nested"]
Axis = Literal["up", "along", "across"]
Millimetre = Annotated[float, about(ge=-5000, le=5000)]
PartKind = Literal["board", "leads", "sensor", "foam", "air", "other"]
Stands = Literal["floor", "lid"]
Side = Annotated[float, about(gt=0, le=5000)]
Corner = tuple[Millimetre, Millimetre]


class Hole(Document, frozen=True):
    """A round place that no cell may reach: a screw, a boss."""

    x_mm: Millimetre = 0.0
    y_mm: Millimetre = 0.0
    diameter_mm: Side = 6.0


class Room(Document, frozen=True):
    """Where the pack has to go, seen from above; ``none`` sets no limit."""

    kind: Annotated[RoomKind, about("Room")] = "none"
    length_mm: Annotated[Side, about("Length", "mm")] = 320.0
    width_mm: Annotated[Side, about("Width", "mm")] = 160.0
    diameter_mm: Annotated[Side, about("Diameter", "mm")] = 50.0
    height_mm: Annotated[Side, about("Height", "mm")] | None = None
    outline: Annotated[tuple[Corner, ...], about("Outline", max_length=2000)] = ()
    cut_outs: Annotated[tuple[tuple[Corner, ...], ...], about("Cut-outs", max_length=200)] = ()
    holes: Annotated[tuple[Hole, ...], about("Holes", max_length=200)] = ()


class KeptFree(Document, frozen=True):
    """A part that takes room beside the cells; the corner nearest the origin and its size.

    Without ``height_mm`` it takes all the height there is; else it ``stands`` on the floor, or
    lies over the cells, under the lid. ``mass_g`` is what it weighs where that was said.
    """

    name: Annotated[str, about("Name", min_length=1, max_length=60)] = "board"
    kind: Annotated[PartKind, about("What it is")] = "other"
    x_mm: Annotated[Millimetre, about("x", "mm")] = 0.0
    y_mm: Annotated[Millimetre, about("y", "mm")] = 0.0
    length_mm: Annotated[Side, about("Length", "mm")] = 60.0
    width_mm: Annotated[Side, about("Width", "mm")] = 20.0
    height_mm: Annotated[Side, about("Height", "mm")] | None = None
    stands: Annotated[Stands, about("Stands")] = "floor"
    mass_g: Annotated[float, about("Mass", "g", ge=0, le=1e5)] | None = None

    @property
    def is_board(self) -> bool:
        """Whether it is the BMS: by its kind, or where that was not said by its name."""
        named = self.kind == "other" and {"board", "bms"} & set(self.name.lower().split())
        return self.kind == "board" or bool(named)


class CellBlock(Document, frozen=True):
    """Cells side by side that point one way; the corner nearest the origin, columns and rows."""

    x_mm: Millimetre = 0.0
    y_mm: Millimetre = 0.0
    columns: Annotated[int, about(ge=1, le=200)] = 1
    rows: Annotated[int, about(ge=1, le=200)] = 1
    axis: Axis = "up"


class Spot(Document, frozen=True):
    """One cell where the builder put it; ``turned`` has its positive end the other way."""

    group: Annotated[int, about(ge=1, le=300)]
    x_mm: Millimetre
    y_mm: Millimetre
    layer: Annotated[int, about(ge=0, le=20)] = 0
    axis: Axis = "up"
    turned: bool = False


class Arrangement(Document, frozen=True):
    """How the cells lie; without ``spots`` the pack follows the proposal named by ``way``."""

    room: Room = Room()
    rows: Annotated[Rows, about("Rows")] = "straight"
    axis: Annotated[Axis, about("Cells stand or lie")] = "up"
    holder: Annotated[PartId, about("Holder")] | None = None
    pitch_mm: Annotated[Side, about("Pitch of the holder", "mm")] | None = None
    between_mm: Annotated[float, about("Between layers", "mm", ge=0, le=100)] | None = None
    swell_share: Annotated[float, about("Flat cells grow by", "%", ge=0, le=0.5)] | None = None
    plate_mm: Annotated[float, about("Compression plates", "mm", gt=0, le=50)] | None = None
    wall_mm: Annotated[float, about("Free to the wall", "mm", ge=0, le=100)] = 2.0
    kept_free: Annotated[tuple[KeptFree, ...], about("Parts in the room", max_length=40)] = ()
    blocks: Annotated[tuple[CellBlock, ...], about("Blocks of cells", max_length=40)] = ()
    way: Annotated[str, about("Proposal", max_length=40)] | None = None
    spots: Annotated[tuple[Spot, ...], about("Cells placed by hand", max_length=20_000)] = ()
    barrier_v: Annotated[float, about("Barrier over", "V", ge=0, le=1000)] = 10.0

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.room.outline and len(self.room.outline) < 3:
            raise Unfit("outline", "fewer than three corners; accepted: three or more, or none")
