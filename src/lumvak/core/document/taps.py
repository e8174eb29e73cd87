"""Balance leads: what they are, which sit in their place, and what was read on them."""

from typing import Annotated

from lumvak.core.record import Document, Unfit, about

MOST_LEADS = 401
END = r"^(main minus|main plus|(lead|joint) (0|[1-9][0-9]{0,2}))$"
END_LIKE = "lead 3, joint 3, main minus or main plus"
COLOURS = ("black", "white", "blue", "yellow", "green")
Millimetres = Annotated[float, about(ge=-1e4, le=1e4)]
Colour = Annotated[str, about(min_length=1, max_length=20)]


class TapTotal(Document, frozen=True):
    """What was read from main minus to a lead; ``volts`` is ``None`` where it read nothing."""

    lead: Annotated[int, about("Lead", ge=0, lt=MOST_LEADS, tip="Number of the lead")]
    volts: (
        Annotated[
            float,
            about(
                "Running total",
                ge=-1e3,
                le=1e5,
                tip="From main minus; not given where nothing was read",
            ),
        ]
        | None
    ) = None


class TapBetween(Document, frozen=True):
    """What was read between two ends: leads, joints or the pack's poles."""

    start: Annotated[
        str, about("From", like=END_LIKE, pattern=END, tip="Lead, tap or pole at the black probe")
    ]
    end: Annotated[
        str, about("To", like=END_LIKE, pattern=END, tip="Lead, tap or pole at the red probe")
    ]
    volts: Annotated[float, about("Between", ge=-1e3, le=1e4, tip="What was read")]


class TapWay(Document, frozen=True):
    """The way of a lead as the builder lays it: corners in mm between its joint and the board."""

    lead: Annotated[
        int, about("Lead", ge=0, lt=MOST_LEADS, tip="Number of the lead, 0 is the most negative")
    ]
    corners: Annotated[
        tuple[tuple[Millimetres, Millimetres], ...],
        about("Corners", max_length=20, tip="X and y in mm from tap to BMS"),
    ] = ()


class TapModule(Document, frozen=True):
    """A brick of the pack with plugs of its own: its next groups, from the most negative on."""

    name: Annotated[
        str, about("Name", min_length=1, max_length=30, tip="What the brick is called")
    ] = "brick"
    groups: Annotated[int, about("Groups", ge=1, le=MOST_LEADS, tip="Groups in it")] = 1
    plugs: Annotated[int, about("Plugs", ge=1, le=8, tip="Plugs that they are spread over")] = 1


class BalanceLeads(Document, frozen=True):
    """The thin leads from every joint to the board.

    ``colours`` are those at hand, from lead 0 on and again from the first; ``group_v`` is what
    each group has now, where cells were not measured.
    """

    area_mm2: Annotated[
        float, about("Section", "mm²", gt=0, le=10, tip="Copper section of each")
    ] = 0.205
    fuse_a: (
        Annotated[
            float,
            about(
                "Fuse in each",
                "A",
                gt=0,
                le=50,
                tip="Rating of a small fuse in each; none where not given",
            ),
        ]
        | None
    ) = None
    colours: Annotated[
        tuple[Colour, ...],
        about(
            "Colours",
            min_length=1,
            max_length=40,
            tip="Of the leads from the most negative on, again from the first",
        ),
    ] = COLOURS
    spare_mm: Annotated[
        float,
        about(
            "For both ends",
            "mm",
            ge=0,
            le=2000,
            tip="Added to each lead for stripping and for the plug",
        ),
    ] = 60.0
    group_v: (
        Annotated[
            float,
            about(
                "A group has now",
                "V",
                gt=0,
                le=6,
                tip="Of a group today; by the charge where not given",
            ),
        ]
        | None
    ) = None
    ways: Annotated[
        tuple[TapWay, ...],
        about("Routes", max_length=MOST_LEADS, tip="Corners of leads that the builder routes"),
    ] = ()
    modules: Annotated[
        tuple[TapModule, ...],
        about("Bricks", max_length=40, tip="Bricks of the pack with plugs of their own"),
    ] = ()
    soldered: Annotated[
        tuple[int, ...],
        about("In their place", max_length=MOST_LEADS, tip="Leads that are checked off as joined"),
    ] = ()
    totals: Annotated[
        tuple[TapTotal, ...],
        about("Readings", max_length=MOST_LEADS, tip="Read from main minus to each lead"),
    ] = ()
    more: Annotated[
        tuple[TapBetween, ...],
        about("Further readings", max_length=40, tip="Read between any two points"),
    ] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        for name, leads in (
            ("totals", [item.lead for item in self.totals]),
            ("ways", [item.lead for item in self.ways]),
        ):
            if len(set(leads)) < len(leads):
                raise Unfit(name, "one lead is there twice; accepted: each once")
