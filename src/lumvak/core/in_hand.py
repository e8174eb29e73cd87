"""The steps that judge the cells in hand and look at their groups: a part of the evaluation."""

from __future__ import annotations

from collections.abc import Mapping

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.document.hand import Lot
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Sized
from lumvak.core.matching.extending import extending_topic
from lumvak.core.matching.judging import read_measures
from lumvak.core.matching.matched import LotKind, Matched, kind_of, matched
from lumvak.core.matching.old_and_new import OldAndNew
from lumvak.core.run.one_cell import given_ah
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.steps import Steps


def in_hand(project: Project, sized_pack: SizedPack, steps: Steps) -> Matched:
    """Cells in hand, judged and by their place."""
    parts = sized_pack.catalogue
    choice = sized_pack.choice
    own = _own(sized_pack, steps)
    kinds = steps.of(kinds_of, project.hand.lots, parts)
    given = steps.settled(given_by, project.hand.lots, kinds, own)
    read = steps.going_on(read_measures, project.hand.cells)
    return steps.of(
        matched,
        project.hand,
        read,
        kinds=kinds,
        own=own,
        given_ah=given,
        series=choice.series,
        parallel=choice.parallel,
    )


def old_beside(project: Project, sized: Sized, steps: Steps) -> OldAndNew:
    """The old pack that the new cells are joined to."""
    wanted, sized_pack = project.hand.old, sized.sized_pack
    own, series = _own(sized_pack, steps), sized_pack.choice.series
    old = own if wanted.cell is None else steps.settled(kind_named, wanted.cell, sized.parts)
    return steps.of(
        extending_topic,
        wanted,
        sized.in_hand.groups,
        own=own,
        old=old,
        series=series,
        parallel=sized_pack.choice.parallel,
        current=sized.pack.current,
        charge=sized.charge.voltage,
        stop_cell_v=(sized.sized_pack.terms.stop_v or 0.0) / series,
    )


def _own(sized_pack: SizedPack, steps: Steps) -> LotKind:
    """What the pack's own cells are."""
    cell = sized_pack.choice.cell
    family = sized_pack.catalogue.chemistry_of(cell).family
    return steps.settled(LotKind, cell, family, sized_pack.behaviour)


def kinds_of(lots: tuple[Lot, ...], parts: Catalogue) -> Mapping[str, LotKind]:
    """What lots are said to be, by the id of the cell."""
    named = {lot.cell for lot in lots if lot.cell is not None and lot.cell in parts.cells}
    return {name: kind_named(name, parts) for name in named}


def kind_named(name: str, parts: Catalogue) -> LotKind:
    """A cell of the catalogue by its id."""
    cell = parts.cells[name]
    chemistry = parts.chemistry_of(cell)
    return LotKind(cell, chemistry.family, behaviour_of(cell, chemistry))


def given_by(
    lots: tuple[Lot, ...], kinds: Mapping[str, LotKind], own: LotKind
) -> Mapping[str, float]:
    """What the sheet's cell gives in Ah as each lot's capacities were taken, by the lot's name."""
    found = {}
    for lot in lots:
        kind = kind_of(lot, kinds, own)
        found[lot.name] = given_ah(kind.cell, kind.behaviour, lot.capacity_a, lot.capacity_to_v)
    return found
