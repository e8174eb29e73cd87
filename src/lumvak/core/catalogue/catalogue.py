"""Parts to choose from: chemistries, cells, conductors and boards, and how they are looked up."""

from collections.abc import Iterable
from functools import cached_property
from itertools import chain
from operator import attrgetter
from typing import Annotated, Literal

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.catalogue.holders import Holder
from lumvak.core.catalogue.instruments import BenchInstrument
from lumvak.core.catalogue.power_parts import Connector, Fuse, Surge, Switch, Wire
from lumvak.core.record import Document, about
from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused

PARTS_FORMAT = "lumvak-parts"
PARTS_VERSION = 1


class Parts(Document, frozen=True):
    """A bundle of parts: a catalogue file, or the copies that a project carries."""

    chemistries: Annotated[
        tuple[Chemistry, ...], about("Chemistries", tip="Families of cells with their OCV")
    ] = ()
    cells: Annotated[tuple[Cell, ...], about("Cells", tip="Cells by their data sheets")] = ()
    conductors: Annotated[
        tuple[Conductor, ...], about("Conductors", tip="Strips, sheets and busbars")
    ] = ()
    boards: Annotated[
        tuple[Board, ...],
        about("BMS", tip="Battery management systems, and parts that do some of that"),
    ] = ()
    fuses: Annotated[tuple[Fuse, ...], about("Fuses", tip="Main and charge fuses")] = ()
    wires: Annotated[tuple[Wire, ...], about("Wires", tip="Wire by the metre")] = ()
    connectors: Annotated[
        tuple[Connector, ...], about("Connectors", tip="Pairs of connectors")
    ] = ()
    switches: Annotated[
        tuple[Switch, ...], about("Switches", tip="Switches, relays and contactors")
    ] = ()
    surges: Annotated[
        tuple[Surge, ...],
        about("Surge limiters", tip="Thermistors, resistors and anti-spark parts"),
    ] = ()
    chargers: Annotated[tuple[Charger, ...], about("Chargers", tip="Chargers and supplies")] = ()
    holders: Annotated[
        tuple[Holder, ...], about("Cell holders", tip="Holders for round cells")
    ] = ()
    instruments: Annotated[
        tuple[BenchInstrument, ...],
        about("Instruments", tip="Bench instruments and their commands"),
    ] = ()


NO_PARTS = Parts()
# What kinds of parts there are: each is a field of a bundle, a dict by id of the catalogue, and a
# file of that name among the parts that ship.
PART_KINDS = Parts.__struct_fields__


class PartsFile(Parts, frozen=True):
    """A catalogue file as stored."""

    format: Annotated[
        Literal["lumvak-parts"],
        about("Format", tip="Says that the file is one of parts; always lumvak-parts"),
    ] = "lumvak-parts"
    version: Annotated[Literal[1], about("Version", tip="Of the format")] = 1
    title: Annotated[str, about("Title", tip="What the file is called in the window")] = ""


class UnknownPart(Refused):
    """A part that is named but in no catalogue; the message names it and where it is wanted."""


class Catalogue:
    """All parts at hand, by id; later bundles win over earlier ones."""

    chemistries: dict[str, Chemistry]
    cells: dict[str, Cell]
    conductors: dict[str, Conductor]
    boards: dict[str, Board]
    fuses: dict[str, Fuse]
    wires: dict[str, Wire]
    connectors: dict[str, Connector]
    switches: dict[str, Switch]
    surges: dict[str, Surge]
    chargers: dict[str, Charger]
    holders: dict[str, Holder]
    instruments: dict[str, BenchInstrument]

    def __init__(self, bundles: Iterable[Parts]) -> None:
        # The last copies laid over it, and the catalogue that makes.
        self._over: tuple[Parts, Catalogue] | None = None
        held = tuple(bundles)
        for kind in PART_KINDS:
            parts = chain.from_iterable(getattr(bundle, kind) for bundle in held)
            setattr(self, kind, {part.id: part for part in parts})
        for cell in self.cells.values():
            if cell.chemistry not in self.chemistries:
                raise UnknownPart(
                    phrase(
                        "cell “{}” names the chemistry “{}”, which no catalogue has; known are {}",
                        cell.id,
                        cell.chemistry,
                        listed(sorted(self.chemistries)),
                    )
                )

    @cached_property
    def strongest_board_a(self) -> dict[tuple[str, int], float]:
        """The most current in A that a board passes, by family and series count."""
        found: dict[tuple[str, int], float] = {}
        for board in self.boards.values():
            key = (board.family, board.series)
            found[key] = max(found.get(key, 0.0), board.continuous_a)
        return found

    @cached_property
    def rising_fuses(self) -> tuple[Fuse, ...]:
        """The fuses in the order in which they are tried: by rating, then by price."""
        return tuple(sorted(self.fuses.values(), key=lambda fuse: (fuse.rating_a, fuse.price)))

    @cached_property
    def cheapest_connectors(self) -> tuple[Connector, ...]:
        """The connectors, the cheapest first."""
        return tuple(sorted(self.connectors.values(), key=attrgetter("price")))

    @cached_property
    def cheapest_switches(self) -> tuple[Switch, ...]:
        """The switches, the cheapest first."""
        return tuple(sorted(self.switches.values(), key=attrgetter("price")))

    def with_parts(self, parts: Parts) -> "Catalogue":
        """This catalogue with the copies that a project carries laid over it."""
        if parts == NO_PARTS:
            return self
        if self._over is None or self._over[0] is not parts:
            self._over = parts, Catalogue((self.all_parts, parts))
        return self._over[1]

    @cached_property
    def all_parts(self) -> Parts:
        """Everything in this catalogue as one bundle."""
        return Parts(**{kind: tuple(getattr(self, kind).values()) for kind in PART_KINDS})

    @cached_property
    def cell_list(self) -> tuple[Cell, ...]:
        """All cells, in a fixed order."""
        return tuple(self.cells.values())

    def chemistry_of(self, cell: Cell) -> Chemistry:
        """The chemistry that ``cell`` belongs to."""
        return self.chemistries[cell.chemistry]
