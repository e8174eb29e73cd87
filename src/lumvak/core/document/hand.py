"""Cells in hand: lots, what was measured on each cell, how they are grouped, where each goes."""

from collections import Counter
from operator import attrgetter
from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase

Origin = Literal["new", "reclaimed", "used"]
By = Literal["capacity", "resistance", "both", "voltage"]
MOST_CELLS = 20_000
PLACE = r"^g[1-9][0-9]{0,2}c[1-9][0-9]{0,2}$"
DAY = r"^(|[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01]))$"
DAY_LIKE = "a day such as 2026-05-31"


class Lot(Document, frozen=True):
    """Cells that came together: what they are said to be, and how they were measured.

    ``pulse_s``, ``pulse_charge`` and ``pulse_c`` say how a DC resistance was taken, ``capacity_a``
    and ``capacity_to_v`` a capacity.
    """

    name: Annotated[
        str, about("Lot", min_length=1, max_length=60, tip="What the lot is called; cells name it")
    ] = "lot 1"
    cell: Annotated[str, about("Sold as", tip="Id of the cell that they are sold as")] | None = None
    origin: Annotated[Origin, about("Origin", tip="New, reclaimed, or used")] = "used"
    day: Annotated[
        str, about("Date", like=DAY_LIKE, max_length=10, pattern=DAY, tip="Day on which they came")
    ] = ""
    word: Annotated[
        str, about("Supplier's claim", max_length=500, tip="What the supplier says of them")
    ] = ""
    resistance_by: Annotated[
        Literal["dc", "ac"],
        about("Resistance measured", tip="By a pulse of direct current, or at 1 kHz"),
    ] = "dc"
    pulse_s: (
        Annotated[float, about("Pulse", "s", gt=0, le=3600, tip="Length of the pulse")] | None
    ) = None
    pulse_charge: (
        Annotated[float, about("Charge at the pulse", "%", ge=0, le=1, tip="How full the cell was")]
        | None
    ) = None
    pulse_c: (
        Annotated[
            float, about("Cell at the pulse", "°C", ge=-40, le=90, tip="How warm the cell was")
        ]
        | None
    ) = None
    capacity_a: (
        Annotated[
            float,
            about("Capacity taken at", "A", ge=1e-3, le=1e4, tip="Current of the capacity test"),
        ]
        | None
    ) = None
    capacity_to_v: (
        Annotated[
            float, about("Capacity taken to", "V", gt=0, le=6, tip="Where the capacity test ended")
        ]
        | None
    ) = None


class HandCell(Document, frozen=True):
    """A cell in hand: its number, on its wrapper, and what was measured; ``None`` is not known.

    ``later_v`` is a second rest voltage, ``days`` after the first. ``verdict`` overrules what is
    judged, with ``why``.
    """

    number: Annotated[
        int, about("Number", ge=1, le=999_999, tip="Written on its wrapper; each once")
    ]
    lot: Annotated[str, about("Lot", min_length=1, max_length=60, tip="Name of its lot")] = "lot 1"
    volts: Annotated[float, about("OCV", "V", ge=-6, le=6, tip="At rest, when it came")] | None = (
        None
    )
    later_v: (
        Annotated[
            float, about("OCV after days", "V", ge=-6, le=6, tip="At rest again, after some days")
        ]
        | None
    ) = None
    days: (
        Annotated[
            float, about("Days between", "d", gt=0, le=10_000, tip="Between the two readings")
        ]
        | None
    ) = None
    ah: (
        Annotated[float, about("Capacity", "Ah", gt=0, le=1e4, tip="Measured from full to empty")]
        | None
    ) = None
    mohm: (
        Annotated[
            float, about("Resistance", "mΩ", gt=0, le=1e5, tip="By the way that its lot says")
        ]
        | None
    ) = None
    grams: Annotated[float, about("Mass", "g", gt=0, le=1e5, tip="By a scale")] | None = None
    remark: Annotated[
        str, about("Remark", max_length=200, tip="What was seen: dents, rust, a torn wrapper")
    ] = ""
    photo: Annotated[
        str, about("Photograph", max_length=500, tip="Name of a picture beside the project")
    ] = ""
    verdict: Annotated[
        Literal["", "keep", "reject"],
        about("Overruled", tip="The builder's own verdict, where it differs from the program's"),
    ] = ""
    why: Annotated[
        str, about("Why", max_length=200, tip="Reason for the builder's own verdict")
    ] = ""


class Meter(Document, frozen=True):
    """The builder's voltmeter: so much of the reading and so many of its last digits.

    ``counts`` is the largest number that it shows.
    """

    percent: Annotated[
        float, about("Of the reading", "%", ge=0, le=0.2, tip="Of the voltage shown")
    ] = 0.005
    digits: Annotated[
        int, about("Digits", ge=0, le=100, tip="Of the last place, added to the share")
    ] = 2
    counts: Annotated[
        int,
        about(
            "Counts",
            ge=100,
            le=10_000_000,
            tip="What the display goes up to; sets the size of the last place",
        ),
    ] = 6000
    ohm_percent: Annotated[
        float, about("Of a resistance", "%", ge=0, le=0.5, tip="How far off a resistance may be")
    ] = 0.02
    ah_percent: Annotated[
        float, about("Of a capacity", "%", ge=0, le=0.5, tip="How far off a capacity may be")
    ] = 0.01


class Placed(Document, frozen=True):
    """Which cell sits, or is to sit, at a place of the pack."""

    number: Annotated[int, about("Number", ge=1, le=999_999, tip="Of the cell")]
    cell: Annotated[
        str, about("Place", like="a place such as g3c2", pattern=PLACE, tip="Such as g3c2")
    ]


class OldGroup(Document, frozen=True):
    """A group of an old pack as it was measured, in the order from the most negative."""

    ah: Annotated[float, about("Capacity", gt=0, le=1e5, tip="Of the group")] | None = None
    mohm: Annotated[float, about("Resistance", "mΩ", gt=0, le=1e5, tip="Of the group")] | None = (
        None
    )
    volts: Annotated[float, about("OCV", gt=0, le=6, tip="Of the group, at rest")] | None = None


class OldPack(Document, frozen=True):
    """A pack in use that the new cells are joined to, group to group; none without groups.

    ``years`` is how long it has been in use, ``ratio`` how far apart the resistance of equal
    capacities of both may be.
    """

    cell: Annotated[str, about("Old cells are", tip="Id of the cells in the old pack")] | None = (
        None
    )
    parallel: (
        Annotated[
            int, about("Old cells in parallel", ge=1, le=400, tip="Cells in each of its groups")
        ]
        | None
    ) = None
    years: (
        Annotated[float, about("In use for", "years", ge=0, le=50, tip="Since it was built")] | None
    ) = None
    ratio: Annotated[
        float,
        about(
            "Resistances apart at most",
            ge=1,
            le=20,
            tip="The most that old and new groups may differ in resistance",
        ),
    ] = 2.0
    groups: Annotated[
        tuple[OldGroup, ...], about("Old groups", max_length=400, tip="Each as it was measured")
    ] = ()


class Hand(Document, frozen=True):
    """All cells in hand, and how they are dealt into groups."""

    meter: Annotated[Meter, about("Meter", tip="How true the builder's meter is")] = Meter()
    lots: Annotated[
        tuple[Lot, ...], about("Lots", min_length=1, max_length=50, tip="Cells that came together")
    ] = (Lot(),)
    cells: Annotated[
        tuple[HandCell, ...],
        about("Cells in hand", max_length=MOST_CELLS, tip="Every cell with what was measured"),
    ] = ()
    by: Annotated[By, about("Grouped by", tip="What groups are to be alike in")] = "capacity"
    seed: Annotated[
        int,
        about(
            "Seed", ge=0, le=2**31, tip="Where chance begins, so that an assignment can be repeated"
        ),
    ] = 1
    pins: Annotated[
        tuple[Placed, ...],
        about(
            "Fixed positions",
            max_length=MOST_CELLS,
            tip="Cells that have their place, as number and place",
        ),
    ] = ()
    apart: Annotated[
        tuple[tuple[int, ...], ...],
        about("Keep separate", max_length=200, tip="Cells of which no two sit in one group"),
    ] = ()
    placed: Annotated[
        tuple[Placed, ...], about("Placed", max_length=MOST_CELLS, tip="Which cell is to sit where")
    ] = ()
    soldered: Annotated[
        tuple[int, ...],
        about("In their place", max_length=MOST_CELLS, tip="Places that are checked off as filled"),
    ] = ()
    old: Annotated[OldPack, about("Old pack", tip="A pack in use that new cells are joined to")] = (
        OldPack()
    )

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        names = [lot.name for lot in self.lots]
        if len(set(names)) < len(names):
            raise Unfit("lots", "two have the same name; accepted: a name for each")
        numbers = [*map(attrgetter("number"), self.cells)]
        if len(set(numbers)) < len(numbers):
            twice = next(number for number, times in Counter(numbers).items() if times > 1)
            raise Unfit(
                "cells",
                phrase(
                    "number {} is there already; accepted: a number for each, never used again",
                    twice,
                ),
            )
        unknown = {*map(attrgetter("lot"), self.cells)} - set(names)
        if unknown:
            raise Unfit(
                "cells", phrase("no lot is called “{}”; accepted: one of the lots", min(unknown))
            )
        for name, wanted in (("pins", self.pins), ("placed", self.placed)):
            for kind, values in (
                ("cell", [item.number for item in wanted]),
                ("place", [item.cell for item in wanted]),
            ):
                if len(set(values)) < len(values):
                    raise Unfit(name, phrase("one {} is there twice; accepted: each once", kind))
