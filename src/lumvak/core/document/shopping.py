"""What was found in a shop: parts that may be bought, with what their sheets say."""

from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase

PartKey = Literal[
    "cell", "series", "group", "bms", "fuse", "leads", "connector", "switch", "surge",
    "charge-leads", "charge-fuse", "charger", "balance-leads", "sensor", "holder", "barrier",
]  # fmt: skip
# So many of one kind stand side by side.
MOST_OF_A_KIND = 3


class GivenFigure(Document, frozen=True):
    """One figure of a sheet or a wrapper, by the field that it is; a ``word`` where it is none."""

    name: Annotated[str, about("Figure", min_length=1, max_length=40, tip="Field of the part")]
    value: (
        Annotated[
            float, about("Value", ge=-1e3, le=1e7, tip="The number, in the unit of the field")
        ]
        | None
    ) = None
    word: Annotated[str, about("Word", max_length=40, tip="The word, where it is no number")] = ""


class PartFound(Document, frozen=True, kw_only=True):
    """A part found in a shop, with as few of its figures as there are."""

    part: Annotated[PartKey, about("Part", tip="Which part: bms, fuse, leads and so on")]
    name: Annotated[str, about("Name", min_length=1, max_length=60, tip="What it is called there")]
    figures: Annotated[
        tuple[GivenFigure, ...],
        about("What its sheet says", max_length=40, tip="As few as its sheet gives"),
    ] = ()
    price: Annotated[float, about("Cost", "money", ge=0, le=1e6, tip="Of one")] | None = None
    reason: Annotated[
        str, about("Why it is taken", max_length=300, tip="Why it is taken although it falls short")
    ] = ""

    @property
    def given(self) -> dict[str, float | str]:
        """Its figures by name, words as they are."""
        return {item.name: item.word if item.value is None else item.value for item in self.figures}


class Shopping(Document, frozen=True):
    """Parts found in shops, up to three of each kind."""

    found: Annotated[
        tuple[PartFound, ...],
        about("Parts found in a shop", max_length=60, tip="Up to three of each kind"),
    ] = ()

    def check(self) -> None:
        """Raise Unfit where two are called alike, or too many are of one kind."""
        names = [(item.part, item.name) for item in self.found]
        for part, name in names:
            if names.count((part, name)) > 1:
                raise Unfit("found", phrase("two are called “{}”; accepted: each once", name))
            if sum(key == part for key, _ in names) > MOST_OF_A_KIND:
                raise Unfit("found", phrase("more than {} of a kind were given", MOST_OF_A_KIND))
