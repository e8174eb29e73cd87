"""Strips, sheets and busbars as they are bought."""

from typing import Annotated, Literal

from lumvak.core.record import Document, NotNegative, PartId, Positive, about
from lumvak.core.said import Text, phrase, say_sides

MaterialName = Literal["nickel", "plated steel", "copper", "nickel-copper", "brass", "aluminium"]


class Conductor(Document, frozen=True, kw_only=True):
    """A strip, sheet or busbar as it is bought."""

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    material: Annotated[MaterialName, about("Metal", tip="What it is made of")]
    form: Annotated[
        Literal["strip", "sheet", "busbar"],
        about("Form", tip="Strip by width, sheet that is cut, or busbar"),
    ]
    thickness_mm: Annotated[Positive, about("Thickness", "mm", tip="Of one layer")]
    width_mm: Annotated[Positive, about("Width", "mm", tip="As it is sold")]
    join: Annotated[
        Literal["weld", "solder", "screw"], about("Joined by", tip="Weld, solder or screw")
    ]
    weld_equivalent_mm: (
        Annotated[
            Positive,
            about(
                "Welds like nickel of",
                "mm",
                tip="Thickness of nickel that is as hard to weld; its own where not given",
            ),
        ]
        | None
    ) = None
    price_per_m: Annotated[NotNegative, about("Cost of a metre", "money", tip="As it is sold")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    @property
    def said(self) -> Text:
        """The name; sizes that stand in it are said in the unit of lengths that is shown."""
        sides = (self.thickness_mm,) if self.form == "sheet" else (self.thickness_mm, self.width_mm)
        sizes = " × ".join(f"{side:g}" for side in sides) + " mm"
        before, found, after = self.name.partition(sizes)
        return phrase("{}{}{}", before, say_sides(sides, "g g"), after) if found else self.name
