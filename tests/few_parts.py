"""A catalogue so thin that what ranks first is often stopped."""

from __future__ import annotations

from lumvak.core.catalogue.catalogue import Catalogue, Parts

MOST_BOARD_A, MOST_BREAKING_A = 60.0, 2500.0


def few_parts(catalogue: Catalogue) -> Catalogue:
    """The parts without large boards and without fuses that break much."""
    boards = catalogue.boards.values()
    fuses = catalogue.fuses.values()
    return Catalogue(
        [
            Parts(
                chemistries=tuple(catalogue.chemistries.values()),
                cells=tuple(catalogue.cells.values()),
                conductors=tuple(catalogue.conductors.values()),
                boards=tuple(board for board in boards if board.continuous_a <= MOST_BOARD_A),
                fuses=tuple(fuse for fuse in fuses if fuse.breaking_a <= MOST_BREAKING_A),
                wires=tuple(catalogue.wires.values()),
                connectors=tuple(catalogue.connectors.values()),
                switches=tuple(catalogue.switches.values()),
                surges=tuple(catalogue.surges.values()),
                chargers=tuple(catalogue.chargers.values()),
                holders=tuple(catalogue.holders.values()),
            )
        ]
    )
