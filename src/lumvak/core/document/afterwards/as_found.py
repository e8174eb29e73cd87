"""A pack that somebody else built, as it is found: each field as seen, or not seen."""

from typing import Annotated, Literal

from lumvak.core.catalogue.cells import Form
from lumvak.core.document.joints import TakeOff
from lumvak.core.record import CellVoltage, Document, PartId, Unfit, about

Metal = Literal["plated steel", "nickel", "nickel-copper", "copper"]
Stored = Literal["full", "half", "empty"]
Held = Literal["holders", "glue-barriers", "glue"]
State = Literal["sound", "swollen", "leaking", "wet", "burnt"]
Ends = Literal["itself", "bms"]
There = Literal["none", "there"]
Alike = Literal["alike", "mixed"]
METAL_TIP = (
    "A magnet holds on both. Scratch it and leave it in salt water over night: steel rusts, nickel "
    "does not. Ground, steel throws long bright sparks. A metre of 0.15 × 7 mm is 67 mΩ of nickel, "
    "136 mΩ of steel"
)


class AsFound(Document, frozen=True):
    """What was seen of a pack; ``None`` is not seen, and the audit says what that costs.

    ``begun`` tells that the project begins from it. ``group_v`` are groups as read at rest.
    """

    begun: Annotated[
        bool,
        about(
            "Begins from a pack as found",
            tip="True where the pack is there already and the design follows what was seen",
        ),
    ] = False
    promised_a: (
        Annotated[
            float,
            about(
                "Sold as",
                "A",
                gt=0,
                le=1e4,
                also="claimed promised label",
                tip="Continuous current that the seller states",
            ),
        ]
        | None
    ) = None
    promised_ah: (
        Annotated[
            float,
            about(
                "Sold with", "Ah", gt=0, le=1e4, also="label", tip="Capacity that the seller states"
            ),
        ]
        | None
    ) = None
    cell: Annotated[PartId, about("Cells read as", tip="What is printed on the cells")] | None = (
        None
    )
    form: (
        Annotated[
            Form,
            about(
                "Form of its cells",
                tip="Round cells by diameter and length, or pouch, or prismatic",
            ),
        ]
        | None
    ) = None
    chemistry: (
        Annotated[
            PartId,
            about("Chemistry as said", tip="Id of a chemistry, as the seller or the wrapper says"),
        ]
        | None
    ) = None
    alike: Annotated[Alike, about("Cells", tip="All of one kind and one age?")] | None = None
    years: (
        Annotated[float, about("Age", "years", ge=0, le=40, tip="Since the cells were made")] | None
    ) = None
    cycles: (
        Annotated[
            float,
            about(
                "Charges so far",
                ge=0,
                le=20_000,
                tip="Full charges so far, as far as anybody knows",
            ),
        ]
        | None
    ) = None
    stored: (
        Annotated[Stored, about("Stood mostly", tip="How full it stood most of the time")] | None
    ) = None
    series_cells: (
        Annotated[
            int,
            about(
                "Groups, by its cells", ge=1, le=300, tip="Groups in series, counted by the cells"
            ),
        ]
        | None
    ) = None
    tap_wires: (
        Annotated[
            int,
            about(
                "Leads at its plug",
                ge=2,
                le=301,
                tip="All of them, the lowest too: one more than groups",
            ),
        ]
        | None
    ) = None
    full_v: (
        Annotated[
            float,
            about(
                "Volts when full",
                "V",
                gt=0,
                le=1500,
                tip="At the output, after the charger has ended",
            ),
        ]
        | None
    ) = None
    parallel: (
        Annotated[
            int, about("Cells in a group", ge=1, le=400, tip="Cells side by side in one group")
        ]
        | None
    ) = None
    group_v: Annotated[
        tuple[CellVoltage, ...],
        about(
            "Groups at rest",
            max_length=300,
            tip="Volts of each group at rest, from the most negative",
        ),
    ] = ()
    measured_ah: (
        Annotated[
            float,
            about(
                "Charge measured",
                "Ah",
                gt=0,
                le=1e4,
                also="capacity test",
                tip="Charge that a full discharge gave",
            ),
        ]
        | None
    ) = None
    strips: (
        Annotated[
            int,
            about(
                "Strips a connection",
                ge=1,
                le=400,
                tip="Strips side by side from one group to the next",
            ),
        ]
        | None
    ) = None
    layers: Annotated[int, about("Layers", ge=1, le=12, tip="Strips one upon the other")] | None = (
        None
    )
    thickness_mm: (
        Annotated[float, about("Thickness", "mm", ge=0.03, le=5, tip="Of one strip, by a caliper")]
        | None
    ) = None
    width_mm: Annotated[float, about("Width", "mm", ge=1, le=200, tip="Of one strip")] | None = None
    metal: Annotated[Metal, about("Metal", tip=METAL_TIP)] | None = None
    leads_leave: (
        Annotated[
            TakeOff,
            about("Leads leave from", tip="Where the main leads are joined to the end groups"),
        ]
        | None
    ) = None
    bms: Annotated[There, about("BMS", also="board", tip="Whether a BMS was seen")] | None = None
    bms_a: (
        Annotated[
            float, about("Marked", "A", gt=0, le=1e4, tip="Continuous current printed on the BMS")
        ]
        | None
    ) = None
    switches: (
        Annotated[
            int,
            about(
                "Switches in parallel",
                ge=1,
                le=100,
                tip="Transistors side by side on the way out: half of all where it has as many for "
                "the charge",
            ),
        ]
        | None
    ) = None
    shunt_mohm: (
        Annotated[
            float,
            about(
                "Shunts",
                "mΩ",
                gt=0,
                le=100,
                tip="All shunts in parallel, as they are marked or measured",
            ),
        ]
        | None
    ) = None
    sense_leads: (
        Annotated[
            int,
            about(
                "Sense leads",
                ge=1,
                le=301,
                also="balance taps",
                tip="Where the thin leads of the plug are joined",
            ),
        ]
        | None
    ) = None
    bleeds: (
        Annotated[
            bool,
            about(
                "Has bleed resistors",
                tip="A row of like resistors, one for each group, beside the balance plug",
            ),
        ]
        | None
    ) = None
    ports: (
        Annotated[
            Literal[1, 2], about("Ports", tip="1 common, 2 separate for charge and discharge")
        ]
        | None
    ) = None
    fuse: Annotated[There, about("Main fuse", tip="Whether there is a main fuse")] | None = None
    fuse_a: (
        Annotated[float, about("Fuse rated", "A", gt=0, le=5000, tip="Rating of the main fuse")]
        | None
    ) = None
    lead_mm2: (
        Annotated[
            float, about("Main leads", "mm²", ge=0.1, le=300, tip="Copper section of one main lead")
        ]
        | None
    ) = None
    connector_a: (
        Annotated[
            float,
            about(
                "Connector rated",
                "A",
                gt=0,
                le=2000,
                tip="Continuous current of the output connector",
            ),
        ]
        | None
    ) = None
    held: (
        Annotated[Held, about("Cells are held by", tip="What keeps the cells in their place")]
        | None
    ) = None
    state: (
        Annotated[State, about("Looks", tip="What its wrapper, cells and joints look like")] | None
    ) = None
    charger: (
        Annotated[
            Ends,
            about(
                "A charge is ended by", tip="What ends the charge: its charger, or the BMS alone"
            ),
        ]
        | None
    ) = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        for kind, field in (("bms", "bms_a"), ("fuse", "fuse_a")):
            if getattr(self, kind) == "none" and getattr(self, field) is not None:
                raise Unfit(field, "there is none of it; accepted: a rating of one that is there")


NOTHING = AsFound()
# What may be seen, or not: all but whether the project begins from it.
FIELDS = tuple(it for it in AsFound.__struct_fields__ if it != "begun")


def is_seen(found: AsFound, field: str) -> bool:
    """Whether a field was seen at all."""
    return getattr(found, field) not in (None, ())
