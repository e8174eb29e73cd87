"""The passport of a pack, from what its project works out to, and a project from a passport."""

from __future__ import annotations

import math
from collections.abc import Mapping

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.measured import Measured, measured
from lumvak.core.proving.proof import standing_of
from lumvak.core.rating.chain import RATED_FOR_S, rating

# Numbers of a label have so many figures.
FIGURES = 4
NAME = 60


def rounded(value: float | None) -> float | None:
    """A ``value`` with FIGURES figures; ``None`` where there is none, or no bound."""
    if value is None or not math.isfinite(value):
        return None
    return float(f"{value:.{FIGURES}g}")


def passport_of(evaluation: Evaluation) -> Passport:
    """What the label of a pack says of it. It is long, for it names all that a label holds."""
    project, sized, power = evaluation.project, evaluation.sized, evaluation.power
    choice, cell, pack = sized.choice, sized.choice.cell, sized.pack
    read = measured(project.proving)
    links = evaluation.path.links
    lasting = rating(links, None)
    peak = rating(links, PEAK_S)
    right = evaluation.charging.right
    fuse = power.fuse.part
    capacity, measured_ah = _capacity(evaluation, read)
    ohm = read.get("staircase.pack_mohm")
    board = sized.boards.board
    tail = evaluation.figures.get("charging.end_a")
    return Passport(
        name=project.name[:NAME],
        chemistry=sized.parts.chemistry_of(cell).name[:40],
        cell=cell.name[:NAME],
        series=choice.series,
        parallel=choice.parallel,
        capacity_ah=rounded(capacity) or 1e-3,
        capacity_is="measured" if measured_ah else "designed",
        full_v=rounded(pack.full.number) or 1.0,
        empty_v=rounded(choice.series * cell.voltage_empty_v) or 0.5,
        continuous_a=None if lasting is None else rounded(lasting.current_a),
        peak_a=None if peak is None else rounded(peak.current_a),
        peak_s=None if peak is None else PEAK_S,
        charge_v=rounded(right.volts.number),
        charge_a=rounded(right.amps.number),
        tail_a=None if tail is None else rounded(tail.number),
        discharge_min_c=cell.discharge_min_c,
        discharge_max_c=cell.discharge_max_c,
        charge_min_c=cell.charge_min_c,
        charge_max_c=cell.charge_max_c,
        bms="" if board is None else board.name[:NAME],
        fuse_a=None if fuse is None else rounded(fuse.rating_a),
        resistance_mohm=None if ohm is None else rounded(ohm.value),
        standing=standing_of(read),
        modified=project.need.nickel_cells is not None or bool(project.record.taken_over),
        built=project.record.built,
        measured=_last_day(project),
    )


# A label names the peak of so many seconds.
PEAK_S = RATED_FOR_S[1] or 10.0


def _capacity(evaluation: Evaluation, read: Mapping[str, Measured]) -> tuple[float, bool]:
    """Ah, and whether it was measured: of the whole pack, else of its weakest group."""
    if (whole := read.get("full-discharge.ah")) is not None:
        return whole.value, True
    weakest = evaluation.sized.in_hand.weakest_ah
    if weakest is not None:
        return weakest.number, True
    return evaluation.sized.pack.capacity.number, False


def _last_day(project: Project) -> str | None:
    """The day of the last reading of a test."""
    days = [it.taken[:10] for it in project.proving.readings if it.taken]
    return max(days, default=None)


def project_of(passport: Passport, catalogue: Catalogue) -> Project:
    """A project that begins from what a label claims; its cell is one of the catalogue's by name.

    Nothing of it is trusted: the passport stays with the project as what was claimed.
    """
    changes: dict[str, object] = {
        "name": passport.name,
        "pack.series": passport.series,
        "pack.parallel": passport.parallel,
        "need.rated_voltage_v": (passport.full_v + passport.empty_v) / 2.0,
        "record.claimed": (passport,),
    }
    known = [cell.id for cell in catalogue.cells.values() if cell.name == passport.cell]
    if passport.cell and known:
        changes["pack.cell"] = known[0]
    return with_values(Project(), changes)
