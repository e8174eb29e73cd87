"""The pack in hand with all that its figures are made from."""

from __future__ import annotations

from functools import cached_property

from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import of_cell
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.cells.worst_cells import quickest_ohm
from lumvak.core.document.pack import Pack
from lumvak.core.figures.figure import Figure, typed
from lumvak.core.need.demand import Demand
from lumvak.core.sizing.choice import Choice
from lumvak.core.sizing.options import Options, ranked
from lumvak.core.sizing.packs import Packs, one_pack
from lumvak.core.sizing.terms import Array, Rows, Terms
from lumvak.core.sizing.usable import Worked, worked


class SizedPack(Struct, frozen=True, eq=False, dict=True):
    """The pack in hand with all that its figures are made from."""

    pack: Pack
    catalogue: Catalogue
    demand: Demand
    choice: Choice
    table: CellTable
    terms: Terms
    path: Figure
    peak_leads: Figure

    @cached_property
    def packs(self) -> Packs:
        """The pack as the functions of sizing take it, (1,)."""
        choice = self.choice
        return one_pack(self.table, choice.row, choice.series, choice.parallel, self.terms)

    @property
    def behaviour(self) -> Behaviour:
        """How the cell in hand behaves."""
        return self.table.behaviours[self.choice.row]

    @cached_property
    def worked(self) -> Worked:
        """What the pack does under the demand, as columns of one."""
        return worked(self.packs)

    def as_options(self, rows: Rows, series: Array, parallel: Array) -> Options:
        """Any packs (n,) under this need as options, ranked, whether they serve or not."""
        return ranked(
            self.catalogue,
            self.table,
            rows=rows,
            series=series,
            parallel=parallel,
            demand=self.demand,
            terms=self.terms,
            pack=self.pack,
            refused=(),
        )

    def one(self, row: int, series: int, parallel: int) -> Options:
        """One pack under this need, as the only option."""
        packs = one_pack(self.table, row, series, parallel, self.terms)
        return self.as_options(packs.rows, packs.series, packs.parallel)

    def from_sheet(self, field: str, label: str, unit: str) -> Figure:
        """A value of the cell's data sheet as a figure."""
        return of_cell(self.choice.cell, field, label, unit)

    def setting(self, field: str, label: str, unit: str) -> Figure:
        """A setting of the pack as a figure."""
        return typed(f"pack.{field}", label, getattr(self.pack, field), unit)


def quick_inside_ohm(sized_pack: SizedPack) -> float:
    """What lies inside the pack in ohm in the first milliseconds of a short circuit.

    Cells at their quickest, and the joints as sizing counts them.
    """
    choice, packs = sized_pack.choice, sized_pack.packs
    cells = choice.series / choice.parallel * quickest_ohm(choice.cell, sized_pack.behaviour)
    return cells + float(sized_pack.terms.path.joints(packs.rows, packs.series, packs.parallel)[0])


class CellFigures(Struct, frozen=True):
    """The figures of one cell that those of the pack build on."""

    full: Figure
    empty: Figure
    rating: Figure
    least: Figure
    pulse: Figure
    resistance: Figure
    ohm_half: Figure
    ohm_end: Figure
    ohm_mean: Figure
    lag: Figure
    entropy: Figure
    rest_end: Figure
    reserve: Figure


class LoadFigures(Struct, frozen=True):
    """The load on the pack in hand: at the end, on the mean, and the mean voltage under it."""

    end_current: Figure
    mean_current: Figure
    mean_voltage: Figure
