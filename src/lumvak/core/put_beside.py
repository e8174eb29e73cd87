"""The pack of an evaluation as one of several in parallel."""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec.structs import replace

from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import PackSide, SideLimit, from_cells, from_numbers, standing_at
from lumvak.core.beside.together import Together, together
from lumvak.core.cells.cell_model import charge_limit_a
from lumvak.core.document.afterwards.beside import Port
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import phrase

MORE_NAMES = ("the third pack", "the fourth pack")
# Links of the path that a charge through its own socket does not pass.
PAST_THE_SOCKET = ("fuse", "leads", "board", "connector", "switch", "surge")
APART = (
    "{}: its charge port is watched for a charge alone; what it gives there no BMS ends, neither "
    "empty nor in a short circuit"
)


def side_of(evaluation: Evaluation, at: float = 1.0, port: Port = "discharge") -> PackSide:
    """The pack of an evaluation ``at`` a state of charge, with what each of its parts carries.

    What it takes runs through the same parts as what it gives, and through its BMS as a charge. By
    its charge ``port`` both run through its charge leads, its charge fuse and that part of its BMS.
    """
    sized, modelled = evaluation.sized, evaluation.run.pack
    choice, board = sized.choice, evaluation.power.board
    weakest = sized.in_hand.weakest_ah
    typical = choice.parallel * choice.cell.capacity_typical_ah
    stop_v = modelled.stop_v
    apart = port == "charge" and board is not None and board.ports == 2
    if board is not None and board.protects and not apart:
        stop_v = max(stop_v, choice.series * board.under_voltage_v)
    name = evaluation.project.name
    side = from_cells(
        name,
        choice.cell,
        modelled.behaviour,
        sized.parts.chemistry_of(choice.cell).family,
        series=choice.series,
        parallel=choice.parallel,
        capacity_ah=typical if weakest is None else weakest.number,
        path_ohm=modelled.path_ohm,
        stop_v=stop_v,
        at=at,
        limits=(*_path_limits(evaluation, port), *_socket_limits(evaluation, port)),
    )
    mass_kg = choice.series * choice.parallel * choice.cell.mass_g * 1e-3
    notes = (phrase(APART, name),) if apart else ()
    return replace(side, mass_kg=mass_kg, notes=notes)


def _path_limits(evaluation: Evaluation, port: Port) -> Iterator[SideLimit]:
    choice, board = evaluation.sized.choice, evaluation.power.board
    for link in evaluation.path.links:
        if port == "charge" and link.key in PAST_THE_SOCKET:
            continue
        gives = link.continuous_a if math.isfinite(link.continuous_a) else None
        takes = gives
        if link.key == "cells":
            takes = choice.parallel * charge_limit_a(choice.cell)
        elif link.key == "board" and board is not None:
            takes = board.charge_a
        if gives is not None or takes is not None:
            yield SideLimit(link.name, gives, takes)


def _socket_limits(evaluation: Evaluation, port: Port) -> Iterator[SideLimit]:
    """What the way to the charge socket carries, in either direction."""
    if port != "charge":
        return
    power = evaluation.power
    wire = power.charge_wire.limit
    if wire.value is not None:
        yield SideLimit("charge leads", wire.number, wire.number, wire.assumed)
    hold = power.charge_fuse_hold
    if hold is not None and hold.value is not None:
        yield SideLimit("charge fuse", hold.number, hold.number, hold.assumed)
    if power.board is not None:
        yield SideLimit("BMS, its charge port", power.board.charge_a, power.board.charge_a)


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


def sides_of(evaluation: Evaluation, other: PackSide | None = None) -> tuple[PackSide, ...] | None:
    """This pack, the second, and any more; ``None`` where nothing is known of the second."""
    second = second_of(evaluation, other)
    if second is None:
        return None
    wanted = evaluation.project.beside
    own = side_of(evaluation, wanted.own_at, wanted.own_port)
    chemistry = evaluation.sized.parts.chemistry_of(evaluation.sized.choice.cell)
    more = (
        from_numbers(
            name,
            own.series,
            it.capacity_ah,
            it.ohm or usual_ohm(own, it.capacity_ah),
            chemistry,
            it.at,
        )
        for name, it in zip(MORE_NAMES, wanted.more, strict=False)
    )
    return own, second, *more


def put_beside(evaluation: Evaluation, other: PackSide | None = None) -> Together | None:
    """All packs as the project says; ``None`` where nothing is known of the second."""
    sides = sides_of(evaluation, other)
    if sides is None:
        return None
    wanted = evaluation.project.beside
    return together(sides, load_of(evaluation), wanted.by, wanted.between_ohm)
