"""Holders that keep round cells apart: one half over each end of the cells."""

from typing import Annotated, Literal

from lumvak.core.record import Document, NotNegative, PartId, Positive, Unfit, about
from lumvak.core.said import digits, phrase


class Holder(Document, frozen=True, kw_only=True):
    """A holder for round cells, as it is bought by the place; every cell takes two places.

    ``pitch_mm`` lies from middle to middle, ``edge_mm`` outside the outermost cells. ``rim_mm`` of
    it lie over the edge of a cell's end, ``rib_mm`` it stands over that end, and between its ribs a
    strip of ``channel_mm`` lies flat. ``mass_g`` and ``price`` are those of one place.
    """

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    diameter_mm: Annotated[Positive, about("Cell diameter", "mm", tip="That it takes")]
    rows: Annotated[
        Literal["straight", "nested"], about("Rows", tip="In line, or offset by half a pitch")
    ] = "straight"
    pitch_mm: Annotated[Positive, about("Pitch", "mm", tip="From centre to centre")]
    edge_mm: Annotated[NotNegative, about("Edge", "mm", tip="Outside the outermost cells")] = 1.0
    rim_mm: Annotated[NotNegative, about("Rim", "mm", tip="That stands up around it")] = 0.0
    rib_mm: Annotated[NotNegative, about("Rib", "mm", tip="That stands up between cells")] = 0.0
    channel_mm: (
        Annotated[
            Positive,
            about("Channel", "mm", tip="Width of the way for a strip; any where not given"),
        ]
        | None
    ) = None
    mass_g: Annotated[NotNegative, about("Mass", "g", tip="Of one place")] = 0.0
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one place")] = 0.0
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        if self.pitch_mm < self.diameter_mm:
            raise Unfit(
                "",
                phrase(
                    "pitch_mm must be at least the diameter of a cell, {}",
                    digits(self.diameter_mm, "g"),
                ),
            )
        if self.rim_mm >= self.diameter_mm / 4.0:
            raise Unfit(
                "",
                phrase(
                    "rim_mm must leave the end open: under a quarter of {}",
                    digits(self.diameter_mm, "g"),
                ),
            )
