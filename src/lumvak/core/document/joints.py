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

    part: (
        Annotated[
            PartId, about("Conductor", tip="Id of the conductor; as recommended where not given")
        ]
        | None
    ) = None
    width_mm: (
        Annotated[
            float,
            about(
                "Width",
                "mm",
                gt=0,
                le=500,
                tip="Of a sheet or a cut strip; as sold where not given",
            ),
        ]
        | None
    ) = None
    layers: (
        Annotated[
            int,
            about("Layers", ge=1, le=12, tip="One upon the other; as recommended where not given"),
        ]
        | None
    ) = None
    strips: (
        Annotated[
            int,
            about(
                "Strips side by side",
                ge=1,
                le=500,
                tip="Side by side; as many as fit the cells where not given",
            ),
        ]
        | None
    ) = None


TerminalName = Annotated[str, about(pattern=r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}[pn]$")]


class PieceChange(Document, frozen=True):
    """One piece of strip between two terminals that differs from the rest.

    ``layers`` 0 leaves it out; a pair that the pattern does not join is added as a piece.
    """

    a: Annotated[TerminalName, about("From", tip="Terminal at one end, such as g1c1p")]
    b: Annotated[TerminalName, about("To", tip="Terminal at the other end")]
    layers: Annotated[int, about("Layers", ge=0, le=12, tip="Of this piece; 0 removes it")] = 1


class LeadPoint(Document, frozen=True):
    """Where one main lead leaves the strips: at a cell of the end group, or on the way to one."""

    pole: Annotated[Literal["+", "-"], about("Pole", tip="Plus or minus")]
    cell: Annotated[int, about("Cell", ge=1, le=500, tip="Cell of the end group, such as c2")]
    toward: (
        Annotated[
            int, about("Toward", ge=1, le=500, tip="Next cell, where the lead leaves between two")
        ]
        | None
    ) = None
    share: Annotated[
        float, about("Share of the way", ge=0, le=1, tip="From the cell toward the next one")
    ] = 0.0


class WeldRead(Document, frozen=True):
    """A test joint on scrap: its resistance, or the drop over it at a current; what a pull did.

    ``pulled`` is “torn” where the strip tore and left metal on the cell, “clean” where it came off.
    """

    mohm: (
        Annotated[float, about("Test joint reads", "mΩ", gt=0, le=1000, tip="By a four-wire meter")]
        | None
    ) = None
    drop_mv: (
        Annotated[
            float,
            about(
                "Drop over the joint",
                "mV",
                gt=0,
                le=1e5,
                tip="From the strip to the can, close to the weld",
            ),
        ]
        | None
    ) = None
    current_a: (
        Annotated[
            float,
            about(
                "At a current", "A", gt=0, le=1e4, tip="Through the joint while the drop was read"
            ),
        ]
        | None
    ) = None
    pulled: Annotated[
        Literal["", "torn", "clean"],
        about("Pulled off", tip="What a pull did: the strip tore, or the weld let go"),
    ] = ""

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

    points: (
        Annotated[
            int, about("Points of a test weld", ge=1, le=40, tip="Weld points of each test joint")
        ]
        | None
    ) = None
    current_a: (
        Annotated[
            float, about("Drop read at", "A", gt=0, le=1e4, tip="Current at which drops were read")
        ]
        | None
    ) = None
    reads: Annotated[
        tuple[WeldRead, ...], about("Test joints", max_length=200, tip="Each test joint")
    ] = ()


class Joints(Document, frozen=True):
    """How groups and series joints are made, and what the builder lets a strip carry."""

    group: Annotated[Strip, about("Group strip", tip="Conductor within a group")] = Strip()
    series: Annotated[Strip, about("Series connection", tip="Conductor from group to group")] = (
        Strip()
    )
    scheme: Annotated[
        Scheme,
        about(
            "Groups or strings",
            tip="Parallel groups, or strings joined at their ends or at every level",
        ),
    ] = "groups"
    side_a: Annotated[
        Pattern,
        about("Side A", tip="Strips, crossed strips, a sheet, copper with nickel tabs, or wires"),
    ] = "strips"
    side_b: Annotated[Pattern, about("Side B", tip="As side A")] = "strips"
    across: Annotated[
        Across, about("Between layers", tip="A wire, or strips folded over, from layer to layer")
    ] = "wire"
    joining: (
        Annotated[
            Joining,
            about(
                "Joined by",
                tip="Weld, solder, cap or screw; as the conductor has it where not given",
            ),
        ]
        | None
    ) = None
    thread: Annotated[Thread, about("Thread of the posts", tip="Of cells with posts")] | None = None
    slot_mm: Annotated[
        float,
        about(
            "Slot for growth",
            "mm",
            ge=0,
            le=20,
            tip="How much longer the hole of a bar is, for cells that grow",
        ),
    ] = 1.0
    bridge: (
        Annotated[
            PartId,
            about("Nickel bridges", tip="Id of the nickel between a copper plate and the cell"),
        ]
        | None
    ) = None
    window_mm: (
        Annotated[
            float,
            about(
                "Windows in plates", "mm", ge=2, le=60, tip="Width of the window over each cell end"
            ),
        ]
        | None
    ) = None
    weld_points: Annotated[
        int, about("Weld points per cell", ge=1, le=40, also="spot weld", tip="Points of one weld")
    ] = 4
    contact_mohm: (
        Annotated[
            float,
            about(
                "One joint on a cell",
                "mΩ",
                gt=0,
                le=100,
                also="spot weld solder",
                tip="Resistance of one joint on a cell; as test joints or usual where not given",
            ),
        ]
        | None
    ) = None
    weld_test: Annotated[
        WeldTest, about("Test joints", tip="Joints made on scrap before the pack's")
    ] = WeldTest()
    contact_limit_a: (
        Annotated[
            float,
            about(
                "A joint on a cell carries",
                "A",
                gt=0,
                le=1000,
                tip="Current of one joint on a cell; no limit where not given",
            ),
        ]
        | None
    ) = None
    link_a: (
        Annotated[
            float,
            about(
                "Fusible link per cell",
                "A",
                gt=0,
                le=200,
                also="cell fuse wire bond",
                tip="Rating of a fusible link per cell; none where not given",
            ),
        ]
        | None
    ) = None
    link_mohm: (
        Annotated[
            float,
            about(
                "Resistance of a link", "mΩ", gt=0, le=1000, tip="Resistance of one fusible link"
            ),
        ]
        | None
    ) = None
    wire_mm2: (
        Annotated[
            float,
            about(
                "Wire between cells",
                "mm²",
                gt=0,
                le=200,
                tip="Section of wires where strings or layers are joined by wire",
            ),
        ]
        | None
    ) = None
    changes: Annotated[
        tuple[PieceChange, ...],
        about("Pieces changed", max_length=5000, tip="Pieces of strip that differ from the rest"),
    ] = ()
    lead_points: Annotated[
        tuple[LeadPoint, ...],
        about(
            "Main leads at",
            max_length=40,
            tip="Where each main lead leaves; as take_off says where not given",
        ),
    ] = ()
    take_off: Annotated[
        TakeOff,
        about("Main lead leaves from", tip="At the end, in the middle, or spread over the group"),
    ] = "middle"
    gap_mm: Annotated[
        float,
        about(
            "Gap between cells",
            "mm",
            ge=0,
            le=50,
            also="spacing",
            tip="Between two cells of the proposal",
        ),
    ] = 1.5
    least_mm: (
        Annotated[
            float,
            about(
                "Least distance of bare metal",
                "mm",
                ge=0.1,
                le=50,
                tip="Between bare metal of unlike potential; by voltage where not given",
            ),
        ]
        | None
    ) = None
    barrier_mm: (
        Annotated[
            float,
            about(
                "Barrier under pieces that cross",
                "mm",
                gt=0,
                le=10,
                tip="Thickness of what lies under a piece that crosses another potential",
            ),
        ]
        | None
    ) = None
    welder_limit_mm: Annotated[
        float,
        about(
            "Thickest nickel the welder joins",
            "mm",
            gt=0,
            le=5,
            tip="Thickness of pure nickel that the welder joins well",
        ),
    ] = 0.2
    school: Annotated[
        School,
        about(
            "What a strip carries",
            tip="Criterion that conductors are chosen by: temperature, current density or loss",
        ),
    ] = "temperature"
    rise_limit_k: Annotated[
        float,
        about(
            "Rise over the cell",
            "K",
            gt=0,
            le=100,
            also="temperature",
            tip="Allowed over the cells at the continuous load",
        ),
    ] = 20.0
    rule_a_per_mm2: Annotated[
        float,
        about(
            "Rule, nickel",
            "A/mm²",
            gt=0,
            le=100,
            tip="Allowed current density of nickel; others by their resistivity",
        ),
    ] = 5.0
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
    loss_mv: Annotated[
        float,
        about(
            "Loss per connection", "mV", gt=0, le=1000, tip="Allowed drop of one series connection"
        ),
    ] = 20.0
