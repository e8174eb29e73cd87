"""Holders that keep round cells apart: one half over each end of the cells."""

from typing import Literal

from lumvak.core.record import Document, NotNegative, PartId, Positive, Unfit
from lumvak.core.said import digits, phrase


class Holder(Document, frozen=True, kw_only=True):
    """A holder for round cells, as it is bought by the place; every cell takes two places.

    ``pitch_mm`` lies from middle to middle, ``edge_mm`` outside the outermost cells. ``rim_mm`` of
    it lie over the edge of a cell's end, ``rib_mm`` it stands over that end, and between its ribs a
    strip of ``channel_mm`` lies flat. ``mass_g`` and ``price`` are those of one place.
    """

    id: PartId
    name: str
    diameter_mm: Positive
    rows: Literal["straight", "nested"] = "straight"
    pitch_mm: Positive
    edge_mm: NotNegative = 1.0
    rim_mm: NotNegative = 0.0
    rib_mm: NotNegative = 0.0
    channel_mm: Positive | None = None
    mass_g: NotNegative = 0.0
    price: NotNegative = 0.0
    note: str = ""
    sample: bool = False

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
