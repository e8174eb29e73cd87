"""What the fields of a found pack come to: cells, counts and charge, each as a span."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.as_found.counting import SeriesCount, series_count
from lumvak.core.as_found.span import Span, about, exactly, in_both
from lumvak.core.as_found.wear import Worn, carries_still, lost_of, worn
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.cell_model import pulse_limit_a
from lumvak.core.document.afterwards.as_found import AsFound

# By form: charge in Ah, continuous amps new, and the width of a cell in mm, of cells of unknown
# kind (ours: from old laptop cells to the best of power tools).
FORMS: dict[str | None, tuple[Span, Span, float]] = {
    "18650": (Span(1.1, 2.2, 4.1), Span(2.0, 4.5, 35.0), 18.5),
    "21700": (Span(2.4, 4.2, 6.2), Span(4.0, 8.0, 60.0), 21.5),
    "26650": (Span(2.2, 4.0, 6.2), Span(4.0, 8.0, 60.0), 26.5),
    "32700": (Span(3.5, 6.0, 8.0), Span(5.0, 10.0, 60.0), 32.5),
    "pouch": (Span(1.0, 10.0, 150.0), Span(1.0, 10.0, 600.0), 60.0),
    "prismatic": (Span(2.0, 20.0, 350.0), Span(2.0, 20.0, 700.0), 40.0),
    # Pouches and boxes show through any wrapper: what was not seen at all is round.
    None: (Span(1.0, 2.5, 8.0), Span(2.0, 4.5, 60.0), 18.5),
}
# The share of its rating that a cell is trusted with continuously, and how sure that is.
TRUSTED, CELLS_OFF = 0.8, 0.15
# What a cell gives for 10 s and 1 s over what it gives continuously, where no sheet says.
PULSES = {10.0: Span(1.0, 1.3, 3.0), 1.0: Span(1.0, 1.5, 4.0)}
SILENT = {10.0: Span(1.0, 1.15, 1.5), 1.0: Span(1.0, 1.25, 1.8)}
UNCOUNTED_P = Span(1.0, 3.0, 40.0)
# Without a chemistry a pack is taken for the commonest.
USUAL_CHEMISTRY = "nmc"


class KnownOfPack(Struct, frozen=True):
    """A found pack as spans: its counts, what one cell carries, and what it all holds."""

    cell: Cell | None
    chemistry: Chemistry
    series: SeriesCount
    parallel: Span
    cell_a: Span
    pulses: dict[float, Span]
    wear: Worn
    pitch_mm: Span
    spread: float | None

    @property
    def full_cell_v(self) -> float:
        """Volts of a full cell."""
        return full_of(self.cell, self.chemistry)


def full_of(cell: Cell | None, chemistry: Chemistry) -> float:
    """Volts of a full cell, by its sheet or the end of its chemistry's curve."""
    return chemistry.curve[-1][1] if cell is None else cell.voltage_full_v


def known_of(found: AsFound, parts: Catalogue) -> KnownOfPack:
    """What was seen, and what nobody saw as the span that it may be."""
    cell = parts.cells.get(found.cell) if found.cell is not None else None
    chemistry = parts.chemistries.get(
        found.chemistry or (USUAL_CHEMISTRY if cell is None else cell.chemistry)
    ) or next(iter(parts.chemistries.values()))
    if cell is not None:
        chemistry = parts.chemistry_of(cell)
    form = found.form if cell is None else cell.format
    cell_ah, cell_a, width = FORMS[form]
    pitch = Span(19.5, 20.0, 34.5)
    if form is not None:
        pitch = Span(width + 1.0, width + 1.5, width + 2.0)
    if cell is not None:
        cell_ah = about(cell.capacity_typical_ah, 0.04)
        cell_a, pitch = exactly(cell.continuous_a), exactly(cell.pitch_mm + 1.5)
    parallel = _parallel(found, cell_ah)
    told = cell is not None or found.chemistry is not None
    lost = lost_of(found, chemistry.family if told else None, None if cell is None else cell.cycles)
    # What volts say of a charge is said by the chemistry alone.
    spread = spread_of(found.group_v, chemistry) if told else None
    wear = worn(found, cell_ah.scaled(parallel), lost, spread)
    trusted = cell_a.scaled(TRUSTED).scaled(about(1.0, CELLS_OFF)).scaled(carries_still(lost))
    return KnownOfPack(
        cell=cell,
        chemistry=chemistry,
        series=series_count(found, full_of(cell, chemistry)),
        parallel=parallel,
        cell_a=trusted,
        pulses={seconds: _pulse(cell, seconds) for seconds in PULSES},
        wear=wear,
        pitch_mm=pitch,
        spread=spread,
    )


def _parallel(found: AsFound, cell_ah: Span) -> Span:
    """Cells in a group: as counted, or by what the pack was sold with, never over the truth."""
    if found.parallel is not None:
        return exactly(float(found.parallel))
    if found.promised_ah is None:
        return UNCOUNTED_P
    likely = max(1.0, round(0.9 * found.promised_ah / cell_ah.value))
    told = Span(
        max(1.0, np.floor(0.45 * found.promised_ah / cell_ah.high)),
        likely,
        max(1.0, np.ceil(1.1 * found.promised_ah / cell_ah.low)),
    )
    return in_both(UNCOUNTED_P, told)


def _pulse(cell: Cell | None, seconds: float) -> Span:
    if cell is None:
        return PULSES[seconds]
    if cell.pulse_a is None:
        return SILENT[seconds]
    return exactly(pulse_limit_a(cell, seconds) / cell.continuous_a)


def spread_of(group_v: tuple[float, ...], chemistry: Chemistry) -> float | None:
    """How far the charge of groups lies apart by their rest voltages; ``None`` for too few."""
    if len(group_v) < 2:
        return None
    charge, volts = np.array(chemistry.curve).T
    at = np.interp(group_v, volts, charge)
    return float(at.max() - at.min())
