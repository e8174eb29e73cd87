"""The steps that judge the cells in hand and look at their groups: a part of the evaluation."""

from __future__ import annotations

from collections.abc import Mapping

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.document.hand import Lot
from lumvak.core.document.project import Project
from lumvak.core.matching.matched import Kind, Matched, kind_of, matched
from lumvak.core.run.one_cell import given_ah
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.steps import Steps


def in_hand(project: Project, hand: SizedPack, steps: Steps) -> Matched:
    """Cells in hand, judged and by their place."""
    parts = hand.catalogue
    cell, choice = hand.choice.cell, hand.choice
    own = steps.settled(Kind, cell, parts.chemistry_of(cell).family, hand.behaviour)
    kinds = steps.of(kinds_of, project.hand.lots, parts)
    given = steps.settled(given_by, project.hand.lots, kinds, own)
    return steps.of(matched, project.hand, kinds, own, given, choice.series, choice.parallel)


def kinds_of(lots: tuple[Lot, ...], parts: Catalogue) -> Mapping[str, Kind]:
    """What lots are said to be, by the id of the cell."""
    found = {}
    for name in {lot.cell for lot in lots if lot.cell is not None and lot.cell in parts.cells}:
        cell = parts.cells[name]
        chemistry = parts.chemistry_of(cell)
        found[name] = Kind(cell, chemistry.family, behaviour_of(cell, chemistry))
    return found


def given_by(lots: tuple[Lot, ...], kinds: Mapping[str, Kind], own: Kind) -> Mapping[str, float]:
    """What the sheet's cell gives in Ah as each lot's capacities were taken, by the lot's name."""
    found = {}
    for lot in lots:
        kind = kind_of(lot, kinds, own)
        found[lot.name] = given_ah(kind.cell, kind.behaviour, lot.capacity_a, lot.capacity_to_v)
    return found
