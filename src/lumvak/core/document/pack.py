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

    cost: Annotated[Weight, about("Cost counts")] = None
    mass: Annotated[Weight, about("Mass counts")] = None
    volume: Annotated[Weight, about("Volume counts")] = None
    work: Annotated[Weight, about("Hours of work count")] = None
    warmth: Annotated[Weight, about("Temperature counts")] = None
    surplus: Annotated[Weight, about("Charge beyond the need counts")] = None
    rated: Annotated[Weight, about("Off the rated voltage counts")] = None
    given_up: Annotated[Weight, about("Charge given up counts")] = None
    held: Annotated[Weight, about("Not on hand counts")] = None
    reclaimed: Annotated[Weight, about("Reclaimed cells count")] = None
    charger: Annotated[Weight, about("Another charger counts")] = None
    board: Annotated[Weight, about("No BMS counts")] = None


class Held(Document, frozen=True):
    """Cells in the drawer: so many of one kind."""

    cell: PartId
    count: Annotated[int, about("How many", ge=1, le=100_000)]


class Beside(Document, frozen=True):
    """An option set beside the one in hand, to be compared."""

    cell: PartId
    series: Annotated[int, about(ge=1, le=300, also="S count")]
    parallel: Annotated[int, about(ge=1, le=500, also="P count")]


class Pack(Document, frozen=True):
    """The option in hand; ``None`` follows the best of the ranking."""

    ranking: Annotated[Ranking, about("Ranked by")] = "balance"
    weights: Annotated[Weights, about("Weights of the balance")] = Weights()
    cell: Annotated[PartId, about("Cell")] | None = None
    series: Annotated[int, about("In series", ge=1, le=300)] | None = None
    parallel: Annotated[int, about("In parallel", ge=1, le=500)] | None = None
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
    enclosure: Annotated[Enclosure, about("Cooling")] = "closed"
    temperature_limit_c: Annotated[float, about("Max. cell temperature", "°C", gt=0, le=100)] = 50.0
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
    most_mass_kg: Annotated[float, about("Mass at most", "kg", gt=0, le=1e4)] | None = None
    most_cost: (
        Annotated[float, about("Cost at most", "money", gt=0, le=1e6, also="price")] | None
    ) = None
    forms: Annotated[tuple[Form, ...], about("Forms of cells", max_length=len(FORMS))] = ()
    origin: Annotated[Literal["any", "new", "reclaimed"], about("Cells")] = "new"
    drawer: Annotated[tuple[Held, ...], about("Cells on hand", max_length=100)] = ()
    drawer_only: Annotated[
        bool,
        about(
            "Only from the cells on hand", tip="What is on hand is entered in the library of cells"
        ),
    ] = False
    beside: Annotated[tuple[Beside, ...], about("Side by side", max_length=MOST_BESIDE)] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if len(set(self.forms)) < len(self.forms):
            raise Unfit(
                "forms", phrase("{} was given; accepted: each form once", listed(self.forms))
            )
