"""The pack of an evaluation as one of several in parallel."""

from __future__ import annotations

import math

from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import PackSide, SideLimit, from_cells, from_numbers, standing_at
from lumvak.core.beside.together import Together, together
from lumvak.core.cells.cell_model import charge_limit_a
from lumvak.core.evaluation import Evaluation


def side_of(evaluation: Evaluation, at: float = 1.0) -> PackSide:
    """The pack of an evaluation ``at`` a state of charge, with what each of its parts carries.

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


def usual_ohm(own: PackSide, capacity_ah: float) -> float:
    """The resistance of a pack of so much charge, like this one in all else."""
    return own.ohm * own.capacity_ah / capacity_ah


def second_of(evaluation: Evaluation, other: PackSide | None = None) -> PackSide | None:
    """The second pack: ``other``, worked out from its own project, or as its few numbers say.

    ``None`` where nothing is known of it. A resistance that nobody said is that of this pack for
    its charge.
    """
    wanted, own = evaluation.project.beside, side_of(evaluation)
    if wanted.file:
        return None if other is None else standing_at(other, wanted.at)
    if wanted.capacity_ah is None:
        return None
    sized = evaluation.sized
    chemistry = sized.parts.chemistry_of(sized.choice.cell)
    if wanted.chemistry is not None:
        chemistry = sized.parts.chemistries.get(wanted.chemistry, chemistry)
    return from_numbers(
        "the second pack",
        wanted.series or sized.choice.series,
        wanted.capacity_ah,
        wanted.ohm or usual_ohm(own, wanted.capacity_ah),
        chemistry,
        wanted.at,
    )


def load_of(evaluation: Evaluation) -> SharedLoad:
    """What both drive: as typed, else what this pack was sized for."""
    typed = evaluation.project.beside.current_a
    return SharedLoad(amps=evaluation.sized.pack.current.number if typed is None else typed)


def put_beside(evaluation: Evaluation, other: PackSide | None = None) -> Together | None:
    """Both packs as the project says; ``None`` where nothing is known of the second."""
    second = second_of(evaluation, other)
    if second is None:
        return None
    wanted = evaluation.project.beside
    sides = side_of(evaluation, wanted.own_at), second
    return together(sides, load_of(evaluation), wanted.by, wanted.between_ohm)
