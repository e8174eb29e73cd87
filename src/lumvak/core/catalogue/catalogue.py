"""Parts to choose from: chemistries, cells, conductors and boards, and how they are looked up."""

from collections.abc import Iterable
from functools import cached_property
from typing import Literal

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.catalogue.holders import Holder
from lumvak.core.catalogue.power_parts import Connector, Fuse, Surge, Switch, Wire
from lumvak.core.record import Document
from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused

PARTS_FORMAT = "lumvak-parts"
PARTS_VERSION = 1


class Parts(Document, frozen=True):
    """A bundle of parts: a catalogue file, or the copies that a project carries."""

    chemistries: tuple[Chemistry, ...] = ()
    cells: tuple[Cell, ...] = ()
    conductors: tuple[Conductor, ...] = ()
    boards: tuple[Board, ...] = ()
    fuses: tuple[Fuse, ...] = ()
    wires: tuple[Wire, ...] = ()
    connectors: tuple[Connector, ...] = ()
    switches: tuple[Switch, ...] = ()
    surges: tuple[Surge, ...] = ()
    chargers: tuple[Charger, ...] = ()
    holders: tuple[Holder, ...] = ()


NO_PARTS = Parts()


class PartsFile(Parts, frozen=True):
    """A catalogue file as stored."""

    format: Literal["lumvak-parts"] = "lumvak-parts"
    version: Literal[1] = 1
    title: str = ""


class UnknownPart(Refused):
    """A part that is named but in no catalogue; the message names it and where it is wanted."""


class Catalogue:
    """All parts at hand, by id; later bundles win over earlier ones."""

    def __init__(self, bundles: Iterable[Parts]) -> None:
        # The last copies laid over it, and the catalogue that makes.
        self._over: tuple[Parts, Catalogue] | None = None
        self.chemistries: dict[str, Chemistry] = {}
        self.cells: dict[str, Cell] = {}
        self.conductors: dict[str, Conductor] = {}
        self.boards: dict[str, Board] = {}
        self.fuses: dict[str, Fuse] = {}
        self.wires: dict[str, Wire] = {}
        self.connectors: dict[str, Connector] = {}
        self.switches: dict[str, Switch] = {}
        self.surges: dict[str, Surge] = {}
        self.chargers: dict[str, Charger] = {}
        self.holders: dict[str, Holder] = {}
        for bundle in bundles:
            self.chemistries.update((part.id, part) for part in bundle.chemistries)
            self.cells.update((part.id, part) for part in bundle.cells)
            self.conductors.update((part.id, part) for part in bundle.conductors)
            self.boards.update((part.id, part) for part in bundle.boards)
            self.fuses.update((part.id, part) for part in bundle.fuses)
            self.wires.update((part.id, part) for part in bundle.wires)
            self.connectors.update((part.id, part) for part in bundle.connectors)
            self.switches.update((part.id, part) for part in bundle.switches)
            self.surges.update((part.id, part) for part in bundle.surges)
            self.chargers.update((part.id, part) for part in bundle.chargers)
            self.holders.update((part.id, part) for part in bundle.holders)
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
        return Parts(
            chemistries=tuple(self.chemistries.values()),
            cells=tuple(self.cells.values()),
            conductors=tuple(self.conductors.values()),
            boards=tuple(self.boards.values()),
            fuses=tuple(self.fuses.values()),
            wires=tuple(self.wires.values()),
            connectors=tuple(self.connectors.values()),
            switches=tuple(self.switches.values()),
            surges=tuple(self.surges.values()),
            chargers=tuple(self.chargers.values()),
            holders=tuple(self.holders.values()),
        )

    @cached_property
    def cell_list(self) -> tuple[Cell, ...]:
        """All cells, in a fixed order."""
        return tuple(self.cells.values())

    def chemistry_of(self, cell: Cell) -> Chemistry:
        """The chemistry that ``cell`` belongs to."""
        return self.chemistries[cell.chemistry]
