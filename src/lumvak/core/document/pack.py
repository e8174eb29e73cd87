"""What the builder says of cells and count."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumvak.core.catalogue.cells import FORMS, Form
from lumvak.core.record import Document, PartId

MOST_BESIDE = 3
Ranking = Literal["balance", "lightest", "cheapest", "coolest", "smallest"]
Enclosure = Literal["closed", "still", "moving"]


Weight = Annotated[float | None, Field(ge=0, le=10)]


class Weights(Document):
    """How much each thing counts where packs are balanced; ``None`` is as usual for the kind."""

    cost: Weight = Field(default=None, title="Cost counts")
    mass: Weight = Field(default=None, title="Weight counts")
    volume: Weight = Field(default=None, title="Volume counts")
    work: Weight = Field(default=None, title="Hours of work count")
    warmth: Weight = Field(default=None, title="Warmth counts")
    surplus: Weight = Field(default=None, title="Charge beyond the need counts")
    rated: Weight = Field(default=None, title="Off the rated voltage counts")
    given_up: Weight = Field(default=None, title="Charge given up counts")
    held: Weight = Field(default=None, title="Not on hand counts")
    reclaimed: Weight = Field(default=None, title="Reclaimed cells count")
    charger: Weight = Field(default=None, title="Another charger counts")
    board: Weight = Field(default=None, title="No board counts")


class Held(Document):
    """Cells in the drawer: so many of one kind."""

    cell: PartId
    count: int = Field(title="How many", ge=1, le=100_000)


class Beside(Document):
    """An option set beside the one in hand, to be compared."""

    cell: PartId
    series: int = Field(ge=1, le=300)
    parallel: int = Field(ge=1, le=500)


class Pack(Document):
    """The option in hand; ``None`` follows the best of the ranking."""

    ranking: Ranking = Field(default="balance", title="Ranked by")
    weights: Weights = Field(default=Weights(), title="Weights of the balance")
    cell: PartId | None = Field(default=None, title="Cell")
    series: int | None = Field(default=None, title="In series", ge=1, le=300)
    parallel: int | None = Field(default=None, title="In parallel", ge=1, le=500)
    derating: float = Field(
        default=0.8,
        title="Share of the cell's continuous rating",
        gt=0,
        le=1,
        json_schema_extra={"unit": "%"},
    )
    end_charge: float = Field(
        default=0.05,
        title="Charge at the end",
        ge=0,
        le=0.5,
        json_schema_extra={"unit": "%"},
    )
    least_usable: float = Field(
        default=0.75,
        title="Usable at least",
        gt=0,
        le=0.98,
        json_schema_extra={"unit": "%"},
    )
    peak_charge: float = Field(
        default=0.5,
        title="Holds the peak down to",
        ge=0.05,
        le=1,
        json_schema_extra={"unit": "%"},
    )
    ageing_new: float = Field(
        default=0.92, title="Reserve, new cells", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    ageing_reclaimed: float = Field(
        default=0.8, title="Reserve, reclaimed cells", gt=0, le=1, json_schema_extra={"unit": "%"}
    )
    enclosure: Enclosure = Field(default="closed", title="Around the pack")
    temperature_limit_c: float = Field(
        default=50.0,
        title="Cells no warmer than",
        gt=0,
        le=100,
        json_schema_extra={"unit": "°C"},
    )
    ceiling_v: float | None = Field(
        default=None, title="Charge ceiling per cell", gt=0, le=6, json_schema_extra={"unit": "V"}
    )
    most_mass_kg: float | None = Field(
        default=None, title="No heavier than", gt=0, le=1e4, json_schema_extra={"unit": "kg"}
    )
    most_cost: float | None = Field(default=None, title="No dearer than", gt=0, le=1e6)
    forms: tuple[Form, ...] = Field(
        default=(), title="Forms of cells", max_length=len(FORMS), json_schema_extra={"unit": ""}
    )
    origin: Literal["any", "new", "reclaimed"] = Field(default="new", title="Cells")
    drawer: tuple[Held, ...] = Field(default=(), title="Cells on hand", max_length=100)
    drawer_only: bool = Field(default=False, title="Only from the cells on hand")
    beside: tuple[Beside, ...] = Field(default=(), title="Side by side", max_length=MOST_BESIDE)

    @model_validator(mode="after")
    def _each_form_once(self) -> Self:
        if len(set(self.forms)) < len(self.forms):
            raise ValueError(
                f"Forms of cells: {', '.join(self.forms)} was given; accepted: each form once"
            )
        return self
