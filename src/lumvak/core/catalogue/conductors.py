"""Strips, sheets and busbars as they are bought."""

from typing import Literal

from lumvak.core.record import Document, NotNegative, PartId, Positive
from lumvak.core.said import Text, phrase, say_sides

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

    @property
    def said(self) -> Text:
        """The name; sizes that stand in it are said in the unit of lengths that is shown."""
        sides = (self.thickness_mm,) if self.form == "sheet" else (self.thickness_mm, self.width_mm)
        sizes = " × ".join(f"{side:g}" for side in sides) + " mm"
        before, found, after = self.name.partition(sizes)
        return phrase("{}{}{}", before, say_sides(sides, "g g"), after) if found else self.name
