"""What bleeds or moves charge between groups: a board, own resistors, a mover."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.balancing.groups_run import Active, Bleed
from lumvak.core.balancing.resistor import resistor
from lumvak.core.catalogue.boards import Board
from lumvak.core.document.charging import Charging, Module
from lumvak.core.figures.figure import Origin
from lumvak.core.said import Text, phrase

# Where nobody says a bleed begins so far under the ceiling of a cell.
UNDER_CEILING_V = 0.03


# A strategy that looks at the others bleeds what is over the lowest by so much.
OVER_LOWEST_V = 0.01


# A balancer without a threshold works at any volts of a cell.
ANY_V = 0.5


class Means(Struct, frozen=True):
    """What evens groups out: a bleed or a mover, in words ``name``.

    ``burns`` says why it must not be used, ``origin`` where its current comes from.
    """

    bleed: Bleed | None
    active: Active | None
    name: Text
    burns: Text = ""
    origin: Origin = "sheet"


def board_bleed(board: Board | None, ceiling_v: float, spread_v: float | None) -> Bleed | None:
    """The bleed of a board; ``None`` where it has none."""
    if board is None or board.balance_a == 0.0:
        return None
    from_v = board.balance_from_v
    if from_v is None and board.kind == "balancer":
        return Bleed(ANY_V, amps=board.balance_a, spread_v=OVER_LOWEST_V, always=True)
    return Bleed(
        ceiling_v - UNDER_CEILING_V if from_v is None else from_v,
        amps=board.balance_a,
        spread_v=spread_v,
        always=board.balance_always,
        most=board.balance_most,
    )


def bled_over_v(module: Module, ceiling_v: float) -> float:
    """Where a resistor bleeds from in V: where nobody says, a little under the ceiling."""
    return ceiling_v - UNDER_CEILING_V if module.from_v is None else module.from_v


def means_of(
    charging: Charging, board: Board | None, ceiling_v: float, spread_v: float | None
) -> Means:
    """What evens the groups out as the builder chose (methods 35)."""
    if charging.at == "bottom" or charging.by == "none":
        return Means(None, None, phrase("nothing"))
    if charging.by == "active":
        mover = charging.mover
        active = Active(mover.amps, mover.efficiency, mover.way)
        return Means(None, active, "an active balancer", origin="typed")
    if charging.by == "module":
        module = charging.module
        from_v = bled_over_v(module, ceiling_v)
        spread = OVER_LOWEST_V if module.strategy == "average" else None
        bleed = Bleed(from_v, module.ohm, spread_v=spread, always=module.always)
        mine = resistor(module.ohm, max(from_v, ceiling_v), 0.0, 1, module.watt)
        return Means(bleed, None, "resistors", mine.burns, "typed")
    found = board_bleed(board, ceiling_v, spread_v)
    return Means(found, None, phrase("nothing") if found is None or board is None else board.name)
