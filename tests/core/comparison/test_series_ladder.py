"""Rungs of the ladder against the options there are."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.comparison.series_ladder import ladder
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_a_rung_serves_where_an_option_has_its_count(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    seen = evaluate(demos[demo], catalogue)
    rungs = ladder(seen.sized_pack, seen.options, seen.project.need)
    assert rungs
    names = np.array([cell.name for cell in seen.sized_pack.table.cells])
    options = {
        (names[row], int(series))
        for row, series in zip(seen.options.rows, seen.options.series, strict=True)
    }
    highest = seen.demand.window.highest.number
    for rung in rungs:
        if rung.serves:
            assert (rung.cell, rung.series) in options
            assert rung.full_v <= highest + 1e-9
        assert rung.empty_v < rung.nominal_v < rung.full_v
        assert 0.0 <= rung.usable <= 1.0
    chosen = [rung for rung in rungs if rung.chosen]
    assert [(rung.cell, rung.series) for rung in chosen] == [
        (seen.choice.cell.name, seen.choice.series)
    ]
    # Each count of a family stands once.
    assert len({(rung.family, rung.series) for rung in rungs}) == len(rungs)


def test_without_options_no_rung_serves(demos: dict[str, Project], catalogue: Catalogue) -> None:
    seen = evaluate(demos["barrow"], catalogue)
    none = replace(seen.options, rows=seen.options.rows[:0], series=seen.options.series[:0],
                   parallel=seen.options.parallel[:0])  # fmt: skip
    rungs = ladder(seen.sized_pack, none, seen.project.need)
    assert rungs
    assert not any(rung.serves for rung in rungs)
