"""The pack of an evaluation as one of several in parallel."""

from __future__ import annotations

import math

from lumvak.core.beside.side import PackSide, SideLimit, from_cells
from lumvak.core.cells.cell_model import charge_limit_a
from lumvak.core.evaluation import Evaluation


def side_of(evaluation: Evaluation, at: float = 1.0) -> PackSide:
    """The pack of an evaluation at a state of charge, with what each of its parts carries.

    What it takes runs through the same parts as what it gives, and through its BMS as a charge.
    """
    sized, modelled = evaluation.sized, evaluation.run.pack
    choice, board = sized.choice, evaluation.power.board
    limits = []
    for link in evaluation.path.links:
        gives = link.continuous_a if math.isfinite(link.continuous_a) else None
        takes = gives
        if link.key == "cells":
            takes = choice.parallel * charge_limit_a(choice.cell)
        elif link.key == "board" and board is not None:
            takes = board.charge_a
        if gives is not None or takes is not None:
            limits.append(SideLimit(link.name, gives, takes))
    weakest = sized.in_hand.weakest_ah
    typical = choice.parallel * choice.cell.capacity_typical_ah
    stop_v = modelled.stop_v
    if board is not None and board.protects:
        stop_v = max(stop_v, choice.series * board.under_voltage_v)
    return from_cells(
        evaluation.project.name,
        choice.cell,
        modelled.behaviour,
        sized.parts.chemistry_of(choice.cell).family,
        series=choice.series,
        parallel=choice.parallel,
        capacity_ah=typical if weakest is None else weakest.number,
        path_ohm=modelled.path_ohm,
        stop_v=stop_v,
        at=at,
        limits=tuple(limits),
    )
