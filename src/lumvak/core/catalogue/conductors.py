"""Strips, sheets and busbars as they are bought."""

from typing import Literal

from lumvak.core.record import Document, NotNegative, PartId, Positive

MaterialName = Literal["nickel", "plated steel", "copper", "nickel-copper", "brass", "aluminium"]


class Conductor(Document, frozen=True, kw_only=True):
    """A strip, sheet or busbar as it is bought."""

    id: PartId
    name: str
    material: MaterialName
    form: Literal["strip", "sheet", "busbar"]
    thickness_mm: Positive
    width_mm: Positive
    join: Literal["weld", "solder", "screw"]
    weld_equivalent_mm: Positive | None = None
    price_per_m: NotNegative
    note: str = ""
    sample: bool = False
