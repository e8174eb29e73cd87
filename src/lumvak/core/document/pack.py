"""What the builder says of cells and count."""

from typing import Annotated, Literal

from lumvak.core.catalogue.cells import FORMS, Form
from lumvak.core.record import Document, PartId, Unfit, about
from lumvak.core.said import listed, phrase

MOST_BESIDE = 3
Ranking = Literal["balance", "lightest", "cheapest", "coolest", "smallest"]
Enclosure = Literal["closed", "still", "moving"]


Weight = Annotated[float, about(ge=0, le=10)] | None


class Weights(Document, frozen=True):
    """How much each thing counts where packs are balanced; ``None`` is as usual for the kind."""

    cost: Annotated[Weight, about("Cost counts", tip="How much the cost weighs")] = None
    mass: Annotated[Weight, about("Mass counts", tip="How much the mass weighs")] = None
    volume: Annotated[
        Weight, about("Volume counts", tip="How much the room weighs that it takes")
    ] = None
    work: Annotated[
        Weight, about("Hours of work count", tip="How much hours of work at the joints weigh")
    ] = None
    warmth: Annotated[
        Weight, about("Temperature counts", tip="How much the warmth of the cells weighs")
    ] = None
    surplus: Annotated[
        Weight, about("Charge beyond the need counts", tip="How much charge beyond the need weighs")
    ] = None
    rated: Annotated[
        Weight,
        about("Off the rated voltage counts", tip="How much a voltage off the rated one weighs"),
    ] = None
    given_up: Annotated[
        Weight,
        about("Charge given up counts", tip="How much charge weighs that is left when it stops"),
    ] = None
    held: Annotated[
        Weight, about("Not on hand counts", tip="How much it weighs that cells must be bought")
    ] = None
    reclaimed: Annotated[
        Weight, about("Reclaimed cells count", tip="How much it weighs that cells were used before")
    ] = None
    charger: Annotated[
        Weight, about("Another charger counts", tip="How much a new charger weighs")
    ] = None
    board: Annotated[
        Weight, about("No BMS counts", tip="How much it weighs that no BMS serves")
    ] = None


class Held(Document, frozen=True):
    """Cells in the drawer: so many of one kind."""

    cell: Annotated[PartId, about("Cell", tip="Id of the cell")]
    count: Annotated[int, about("How many", ge=1, le=100_000, tip="How many there are")]


class Beside(Document, frozen=True):
    """An option set beside the one in hand, to be compared."""

    cell: Annotated[PartId, about("Cell", tip="Id of the cell")]
    series: Annotated[int, about("In series", ge=1, le=300, also="S count", tip="Groups in series")]
    parallel: Annotated[
        int, about("In parallel", ge=1, le=500, also="P count", tip="Cells in a group")
    ]


class Pack(Document, frozen=True):
    """The option in hand; ``None`` follows the best of the ranking."""

    ranking: Annotated[
        Ranking, about("Ranked by", tip="What comes first among packs that serve")
    ] = "balance"
    weights: Annotated[
        Weights,
        about("Weights of the balance", tip="How much each thing counts in the ranking by balance"),
    ] = Weights()
    cell: (
        Annotated[
            PartId, about("Cell", tip="Id of the cell; the best of the ranking where not given")
        ]
        | None
    ) = None
    series: (
        Annotated[
            int,
            about(
                "In series",
                ge=1,
                le=300,
                tip="Groups in series; the best of the ranking where not given",
            ),
        ]
        | None
    ) = None
    parallel: (
        Annotated[
            int,
            about(
                "In parallel",
                ge=1,
                le=500,
                tip="Cells in a group; the least that serves where not given",
            ),
        ]
        | None
    ) = None
    derating: Annotated[
        float,
        about(
            "Derating",
            "%",
            gt=0,
            le=1,
            tip="Share of the cell's continuous rating that sizing uses",
            also="C-rate",
        ),
    ] = 0.8
    end_charge: Annotated[
        float,
        about(
            "Minimum state of charge",
            "%",
            ge=0,
            le=0.5,
            tip="Currents and volts are those from full to here",
            also="depth of discharge DoD minimum SoC",
        ),
    ] = 0.05
    least_usable: Annotated[
        float,
        about(
            "Usable share at least",
            "%",
            gt=0,
            le=0.98,
            tip="A count that gives less of the charge before it stops is refused",
        ),
    ] = 0.75
    peak_charge: Annotated[
        float,
        about("Peak held down to", "%", ge=0.05, le=1, tip="The peak is held down to this charge"),
    ] = 0.5
    ageing_new: Annotated[
        float,
        about(
            "Usable after ageing, new cells",
            "%",
            gt=0,
            le=1,
            tip="Share of the least capacity that is usable after ageing",
            also="state of health SoH",
        ),
    ] = 0.92
    ageing_reclaimed: Annotated[
        float,
        about(
            "Usable after ageing, reclaimed cells",
            "%",
            gt=0,
            le=1,
            tip="Share of the least capacity that is usable after ageing",
        ),
    ] = 0.8
    enclosure: Annotated[Enclosure, about("Cooling", tip="How the pack loses its heat")] = "closed"
    temperature_limit_c: Annotated[
        float,
        about(
            "Max. cell temperature", "°C", gt=0, le=100, tip="Warmest that a cell may become in use"
        ),
    ] = 50.0
    ceiling_v: (
        Annotated[
            float,
            about(
                "Charge voltage per cell",
                "V",
                gt=0,
                le=6,
                tip="Volts per cell that charging ends at; empty is the full voltage",
                also="4.2 4.1 maximum cell voltage",
            ),
        ]
        | None
    ) = None
    most_mass_kg: (
        Annotated[
            float, about("Mass at most", "kg", gt=0, le=1e4, tip="Packs over this are refused")
        ]
        | None
    ) = None
    most_cost: (
        Annotated[
            float,
            about(
                "Cost at most",
                "money",
                gt=0,
                le=1e6,
                also="price",
                tip="Packs over this are refused",
            ),
        ]
        | None
    ) = None
    forms: Annotated[
        tuple[Form, ...],
        about(
            "Forms of cells",
            max_length=len(FORMS),
            tip="Forms of cells that are looked at; usual ones where none is given",
        ),
    ] = ()
    origin: Annotated[
        Literal["any", "new", "reclaimed"],
        about("Cells", tip="New cells only, or reclaimed ones too"),
    ] = "new"
    drawer: Annotated[
        tuple[Held, ...],
        about("Cells on hand", max_length=100, tip="Cells that are there, with how many"),
    ] = ()
    drawer_only: Annotated[
        bool,
        about(
            "Only from the cells on hand", tip="What is on hand is entered in the library of cells"
        ),
    ] = False
    beside: Annotated[
        tuple[Beside, ...],
        about("Side by side", max_length=MOST_BESIDE, tip="Packs to compare with the one in hand"),
    ] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if len(set(self.forms)) < len(self.forms):
            raise Unfit(
                "forms", phrase("{} was given; accepted: each form once", listed(self.forms))
            )
