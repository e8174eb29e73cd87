"""What each cell of the library would do: against a pack of that cell worked out whole."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.comparison.cells_at_work import at_work, curves
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate


def test_a_cell_gives_what_its_own_pack_gives(plain: Project, catalogue: Catalogue) -> None:
    made = evaluate(plain, catalogue)
    table = made.sized.sized_pack.table
    found = at_work(made.sized.sized_pack, made.sized.options)
    assert len(found.series) == len(table.cells) and found.serves.any() and not found.serves.all()
    for row in np.flatnonzero(found.serves)[::9].tolist():
        picked = {
            "pack.cell": table.cells[row].id,
            "pack.series": int(found.series[row]),
            "pack.parallel": int(found.parallel[row]),
        }
        own = evaluate(with_values(plain, picked), catalogue)
        warmest = own.figures["heat.temperature_end_c"].number
        assert found.warmest_c[row] == pytest.approx(warmest, abs=1e-6)
        share = own.figures["pack.usable_fraction"].number
        assert found.delivered_ah[row] == pytest.approx(table.capacity_min_ah[row] * share)


def test_under_load_a_cell_lies_its_own_drop_under_rest(
    plain: Project, catalogue: Catalogue
) -> None:
    made = evaluate(plain, catalogue)
    row = made.sized.choice.row
    charge, rest, under, load = curves(made.sized.sized_pack, row)
    assert len(charge) == len(rest) == len(under)
    assert load == pytest.approx(18.0 / made.sized.choice.parallel)
    half = int(np.argmin(np.abs(charge - 0.5)))
    ohm = made.figures["cell.resistance_steady_ohm"].number
    assert rest[half] - under[half] == pytest.approx(load * ohm, rel=0.05)
