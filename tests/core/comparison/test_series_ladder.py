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
    evaluation = evaluate(demos[demo], catalogue)
    rungs = ladder(evaluation.sized.sized_pack, evaluation.sized.options, evaluation.project.need)
    assert rungs
    names = np.array([cell.name for cell in evaluation.sized.sized_pack.table.cells])
    options = {
        (names[row], int(series))
        for row, series in zip(
            evaluation.sized.options.rows, evaluation.sized.options.series, strict=True
        )
    }
    highest = evaluation.sized.demand.window.highest.number
    for rung in rungs:
        if rung.serves:
            assert (rung.cell, rung.series) in options
            assert rung.full_v <= highest + 1e-9
        assert rung.empty_v < rung.nominal_v < rung.full_v
        assert 0.0 <= rung.usable <= 1.0
    chosen = [rung for rung in rungs if rung.chosen]
    assert [(rung.cell, rung.series) for rung in chosen] == [
        (evaluation.sized.choice.cell.name, evaluation.sized.choice.series)
    ]
    # Each count of a family stands once.
    assert len({(rung.family, rung.series) for rung in rungs}) == len(rungs)


def test_without_options_no_rung_serves(demos: dict[str, Project], catalogue: Catalogue) -> None:
    evaluation = evaluate(demos["barrow"], catalogue)
    none = replace(
        evaluation.sized.options,
        rows=evaluation.sized.options.rows[:0],
        series=evaluation.sized.options.series[:0],
        parallel=evaluation.sized.options.parallel[:0],
    )
    rungs = ladder(evaluation.sized.sized_pack, none, evaluation.project.need)
    assert rungs
    assert not any(rung.serves for rung in rungs)
