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

    x_mm: Annotated[Millimetre, about("Centre, x", "mm", tip="Of the hole")] = 0.0
    y_mm: Annotated[Millimetre, about("Centre, y", "mm", tip="Of the hole")] = 0.0
    diameter_mm: Annotated[Side, about("Diameter", "mm", tip="Of the hole")] = 6.0


class Room(Document, frozen=True):
    """Where the pack has to go, seen from above; ``none`` sets no limit."""

    kind: Annotated[RoomKind, about("Room", tip="No limit, a box, a cylinder, or an outline")] = (
        "none"
    )
    length_mm: Annotated[Side, about("Length", "mm", tip="Of the box, along x")] = 320.0
    width_mm: Annotated[Side, about("Width", "mm", tip="Of the box, along y")] = 160.0
    diameter_mm: Annotated[Side, about("Diameter", "mm", tip="Of the cylinder")] = 50.0
    height_mm: (
        Annotated[Side, about("Height", "mm", tip="Free height; no limit where not given")] | None
    ) = None
    outline: Annotated[
        tuple[Corner, ...],
        about("Outline", max_length=2000, tip="Corners of the room seen from above, x and y in mm"),
    ] = ()
    cut_outs: Annotated[
        tuple[tuple[Corner, ...], ...],
        about("Cut-outs", max_length=200, tip="Areas within the outline that the pack may not use"),
    ] = ()
    holes: Annotated[
        tuple[Hole, ...], about("Holes", max_length=200, tip="Round places that no cell may reach")
    ] = ()


class KeptFree(Document, frozen=True):
    """A part that takes room beside the cells; the corner nearest the origin and its size.

    Without ``height_mm`` it takes all the height there is; else it ``stands`` on the floor, or
    lies over the cells, under the lid. ``mass_g`` is what it weighs where that was said.
    """

    name: Annotated[
        str, about("Name", min_length=1, max_length=60, tip="What it is called in the drawing")
    ] = "board"
    kind: Annotated[
        PartKind, about("What it is", tip="BMS, leads, sensor, foam, air, or another part")
    ] = "other"
    x_mm: Annotated[Millimetre, about("x", "mm", tip="Corner nearest the origin")] = 0.0
    y_mm: Annotated[Millimetre, about("y", "mm", tip="Corner nearest the origin")] = 0.0
    length_mm: Annotated[Side, about("Length", "mm", tip="Along x")] = 60.0
    width_mm: Annotated[Side, about("Width", "mm", tip="Along y")] = 20.0
    height_mm: Annotated[Side, about("Height", "mm", tip="All layers where not given")] | None = (
        None
    )
    stands: Annotated[Stands, about("Stands", tip="On the floor, or under the lid")] = "floor"
    mass_g: (
        Annotated[float, about("Mass", "g", ge=0, le=1e5, tip="Counts in the mass of the pack")]
        | None
    ) = None

    @property
    def is_board(self) -> bool:
        """Whether it is the BMS: by its kind, or where that was not said by its name."""
        named = self.kind == "other" and {"board", "bms"} & set(self.name.lower().split())
        return self.kind == "board" or bool(named)


class CellBlock(Document, frozen=True):
    """Cells side by side that point one way; the corner nearest the origin, columns and rows."""

    x_mm: Annotated[Millimetre, about("Corner, x", "mm", tip="Nearest the origin")] = 0.0
    y_mm: Annotated[Millimetre, about("Corner, y", "mm", tip="Nearest the origin")] = 0.0
    columns: Annotated[int, about("Columns", ge=1, le=200, tip="Cells along x")] = 1
    rows: Annotated[int, about("Rows", ge=1, le=200, tip="Cells along y")] = 1
    axis: Annotated[Axis, about("Cells stand or lie", tip="Which way they point")] = "up"


class Spot(Document, frozen=True):
    """One cell where the builder put it; ``turned`` has its positive end the other way."""

    group: Annotated[
        int,
        about("Group", ge=1, le=300, tip="Which group the cell belongs to, 1 is the most negative"),
    ]
    x_mm: Annotated[Millimetre, about("Centre, x", "mm", tip="Of the cell")]
    y_mm: Annotated[Millimetre, about("Centre, y", "mm", tip="Of the cell")]
    layer: Annotated[int, about("Layer", ge=0, le=20, tip="0 is the lowest")] = 0
    axis: Annotated[Axis, about("Stands or lies", tip="Which way the cell points")] = "up"
    turned: Annotated[bool, about("Turned", tip="Positive end the other way")] = False


class Arrangement(Document, frozen=True):
    """How the cells lie; without ``spots`` the pack follows the proposal named by ``way``."""

    room: Annotated[Room, about("Room", tip="Where the pack has to go")] = Room()
    rows: Annotated[Rows, about("Rows", tip="Rows in line, or offset by half a pitch")] = "straight"
    axis: Annotated[Axis, about("Cells stand or lie", tip="Whether round cells stand or lie")] = (
        "up"
    )
    holder: (
        Annotated[PartId, about("Holder", tip="Id of the cell holder; none where not given")] | None
    ) = None
    pitch_mm: (
        Annotated[
            Side,
            about("Pitch of the holder", "mm", tip="From centre to centre where a holder sets it"),
        ]
        | None
    ) = None
    between_mm: (
        Annotated[
            float,
            about(
                "Between layers", "mm", ge=0, le=100, tip="Free height between two layers of cells"
            ),
        ]
        | None
    ) = None
    swell_share: (
        Annotated[
            float,
            about(
                "Flat cells grow by",
                "%",
                ge=0,
                le=0.5,
                tip="How much thicker flat cells become with age, as a share",
            ),
        ]
        | None
    ) = None
    plate_mm: (
        Annotated[
            float,
            about(
                "Compression plates",
                "mm",
                gt=0,
                le=50,
                tip="Thickness of the plates that press flat cells",
            ),
        ]
        | None
    ) = None
    wall_mm: Annotated[
        float,
        about(
            "Free to the wall", "mm", ge=0, le=100, tip="Between the cells and the wall of the room"
        ),
    ] = 2.0
    kept_free: Annotated[
        tuple[KeptFree, ...],
        about("Parts in the room", max_length=40, tip="Parts that take room beside the cells"),
    ] = ()
    blocks: Annotated[
        tuple[CellBlock, ...],
        about(
            "Blocks of cells",
            max_length=40,
            tip="Cells side by side that point one way, as the builder lays them",
        ),
    ] = ()
    way: (
        Annotated[
            str,
            about(
                "Proposal",
                max_length=40,
                tip="Which proposal is followed; the first where not given",
            ),
        ]
        | None
    ) = None
    spots: Annotated[
        tuple[Spot, ...],
        about(
            "Cells placed by hand",
            max_length=20_000,
            tip="Each cell where the builder put it; none follows the proposal",
        ),
    ] = ()
    barrier_v: Annotated[
        float,
        about(
            "Barrier over",
            "V",
            ge=0,
            le=1000,
            tip="From this potential between neighbours on, a barrier is wanted",
        ),
    ] = 10.0

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.room.outline and len(self.room.outline) < 3:
            raise Unfit("outline", "fewer than three corners; accepted: three or more, or none")
