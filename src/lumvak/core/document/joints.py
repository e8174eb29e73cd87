"""What the builder says of the joints: strips, patterns, leads, and what a strip may carry."""

from typing import Annotated, Literal

from lumvak.core.document.power import School
from lumvak.core.record import Document, PartId, Unfit, about

TakeOff = Literal["end", "middle", "spread"]
Pattern = Literal["strips", "crossed", "sheet", "tabs", "wire"]
Scheme = Literal["groups", "strings-ends", "strings-levels"]
Thread = Literal["M4", "M5", "M6", "M8"]
Across = Literal["wire", "fold"]
Joining = Literal["weld", "solder", "cap", "screw"]


class Strip(Document, frozen=True):
    """The conductor of one kind of joint; ``part`` ``None`` follows the recommendation."""

    part: Annotated[PartId, about("Conductor")] | None = None
    width_mm: Annotated[float, about("Width", "mm", gt=0, le=500)] | None = None
    layers: Annotated[int, about("Layers", ge=1, le=12)] | None = None
    strips: Annotated[int, about("Strips side by side", ge=1, le=500)] | None = None


TerminalName = Annotated[str, about(pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}[pn]$")]


class PieceChange(Document, frozen=True):
    """One piece of strip between two terminals that differs from the rest.

    ``layers`` 0 leaves it out; a pair that the pattern does not join is added as a piece.
    """

    a: TerminalName
    b: TerminalName
    layers: Annotated[int, about(ge=0, le=12)] = 1


class LeadPoint(Document, frozen=True):
    """Where one main lead leaves the strips: at a cell of the end group, or on the way to one."""

    pole: Literal["+", "-"]
    cell: Annotated[int, about(ge=1, le=500)]
    toward: Annotated[int, about(ge=1, le=500)] | None = None
    share: Annotated[float, about(ge=0, le=1)] = 0.0


class WeldRead(Document, frozen=True):
    """A test joint on scrap: its resistance, or the drop over it at a current; what a pull did.

    ``pulled`` is “torn” where the strip tore and left metal on the cell, “clean” where it came off.
    """

    mohm: Annotated[float, about("Test joint reads", "mΩ", gt=0, le=1000)] | None = None
    drop_mv: Annotated[float, about("Drop over the joint", "mV", gt=0, le=1e5)] | None = None
    current_a: Annotated[float, about("At a current", "A", gt=0, le=1e4)] | None = None
    pulled: Annotated[Literal["", "torn", "clean"], about("Pulled off")] = ""

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.drop_mv is not None and self.current_a is None:
            raise Unfit("current_a", "a drop was given alone; accepted: a current beside it")
        if self.mohm is None and self.drop_mv is None and not self.pulled:
            raise Unfit(
                "mohm",
                "nothing was given; accepted: a resistance, a drop "
                "at a current, or what a pull did",
            )

    @property
    def read_mohm(self) -> float | None:
        """Its resistance in mohm, ``None`` where it was only pulled."""
        if self.mohm is not None or self.drop_mv is None or self.current_a is None:
            return self.mohm
        return self.drop_mv / self.current_a


class WeldTest(Document, frozen=True):
    """Joints made on scrap before the pack's; ``points`` are the weld points of each."""

    points: Annotated[int, about("Points of a test weld", ge=1, le=40)] | None = None
    current_a: Annotated[float, about("Drop read at", "A", gt=0, le=1e4)] | None = None
    reads: Annotated[tuple[WeldRead, ...], about("Test joints", max_length=200)] = ()


class Joints(Document, frozen=True):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Strip = Strip()
    series: Strip = Strip()
    scheme: Annotated[Scheme, about("Groups or strings")] = "groups"
    side_a: Annotated[Pattern, about("Side A")] = "strips"
    side_b: Annotated[Pattern, about("Side B")] = "strips"
    across: Annotated[Across, about("Between layers")] = "wire"
    joining: Annotated[Joining, about("Joined by")] | None = None
    thread: Annotated[Thread, about("Thread of the posts")] | None = None
    slot_mm: Annotated[float, about("Slot for growth", "mm", ge=0, le=20)] = 1.0
    bridge: Annotated[PartId, about("Nickel bridges")] | None = None
    window_mm: Annotated[float, about("Windows in plates", "mm", ge=2, le=60)] | None = None
    weld_points: Annotated[int, about("Weld points per cell", ge=1, le=40, also="spot weld")] = 4
    contact_mohm: (
        Annotated[float, about("One joint on a cell", "mΩ", gt=0, le=100, also="spot weld solder")]
        | None
    ) = None
    weld_test: Annotated[WeldTest, about("Test joints")] = WeldTest()
    contact_limit_a: (
        Annotated[float, about("A joint on a cell carries", "A", gt=0, le=1000)] | None
    ) = None
    link_a: (
        Annotated[
            float, about("Fusible link per cell", "A", gt=0, le=200, also="cell fuse wire bond")
        ]
        | None
    ) = None
    link_mohm: Annotated[float, about("Resistance of a link", "mΩ", gt=0, le=1000)] | None = None
    wire_mm2: Annotated[float, about("Wire between cells", "mm²", gt=0, le=200)] | None = None
    changes: Annotated[tuple[PieceChange, ...], about("Pieces changed", max_length=5000)] = ()
    lead_points: Annotated[tuple[LeadPoint, ...], about("Main leads at", max_length=40)] = ()
    take_off: Annotated[TakeOff, about("Main lead leaves from")] = "middle"
    gap_mm: Annotated[float, about("Gap between cells", "mm", ge=0, le=50, also="spacing")] = 1.5
    least_mm: (
        Annotated[float, about("Least distance of bare metal", "mm", ge=0.1, le=50)] | None
    ) = None
    barrier_mm: (
        Annotated[float, about("Barrier under pieces that cross", "mm", gt=0, le=10)] | None
    ) = None
    welder_limit_mm: Annotated[
        float, about("Thickest nickel the welder joins", "mm", gt=0, le=5)
    ] = 0.2
    school: Annotated[School, about("What a strip carries")] = "temperature"
    rise_limit_k: Annotated[
        float, about("Rise over the cell", "K", gt=0, le=100, also="temperature")
    ] = 20.0
    rule_a_per_mm2: Annotated[float, about("Rule, nickel", "A/mm²", gt=0, le=100)] = 5.0
    weld_k_per_w: (
        Annotated[
            float,
            about(
                "Heat through a joint on a cell",
                "K/W",
                ge=0,
                le=1000,
                tip="Thermal resistance from the end of a strip through its weld into the cell",
            ),
        ]
        | None
    ) = None
    loss_mv: Annotated[float, about("Loss per connection", "mV", gt=0, le=1000)] = 20.0
