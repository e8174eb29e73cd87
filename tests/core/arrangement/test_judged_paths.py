"""Paths judged: groups in line first, no group that falls apart, flat cells face to face."""

import numpy as np
import pytest

from lumvak.core.arrangement.group_paths import Task
from lumvak.core.arrangement.judged_paths import paths_of, ranked
from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement


@pytest.mark.parametrize(("series", "parallel"), [(20, 10), (13, 4)])
def test_nested_groups_run_along_the_rows(catalogue: Catalogue, series: int, parallel: int) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    layout = placed(Arrangement(rows="nested"), cell, series, parallel, 1.5).layout
    rows = layout.y_mm.reshape(series, parallel)
    assert np.ptp(rows, axis=1) == pytest.approx(np.zeros(series))
    task = Task(Arrangement(rows="nested"), cell, series, parallel, 1.5, None)
    paths = ranked(paths_of(task), task)
    assert paths[0].straight == 1.0
    assert any(path.straight == 0.0 for path in paths)


@pytest.mark.parametrize("cell", ["fennimor-b-105", "kimbry-p-50"])
@pytest.mark.parametrize(("series", "parallel"), [(8, 1), (4, 2), (10, 3), (7, 4)])
def test_groups_of_flat_cells_stand_face_to_face_and_every_joint_has_a_bar(
    catalogue: Catalogue, cell: str, series: int, parallel: int
) -> None:
    task = Task(Arrangement(), catalogue.cells[cell], series, parallel, 1.5, None)
    for path in ranked(paths_of(task), task):
        x = path.sites.x_mm[path.site].reshape(series, parallel)
        assert np.ptp(x, axis=1) == pytest.approx(np.zeros(series))
    first = placed(Arrangement(), catalogue.cells[cell], series, parallel, 1.5).chosen
    assert first is not None and first.wired == 0 and first.least_front > 0
