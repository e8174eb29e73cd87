"""The pack in hand: as picked, else as the ranking has it."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate


def test_what_is_not_picked_follows_the_best(plain: Project, catalogue: Catalogue) -> None:
    free = evaluate(plain, catalogue)
    best = free.sized.choice
    assert best.index == 0 and best.count == f"{best.series}S{best.parallel}P"
    other = next(
        cell
        for cell in dict.fromkeys(
            free.sized.options.table.cells[row].id for row in free.sized.options.rows
        )
        if cell != best.cell.id
    )
    picked = evaluate(with_values(plain, {"pack.cell": other}), catalogue).sized.choice
    assert picked.cell.id == other and picked.index is not None


@pytest.mark.parametrize("series", [3, 10])
def test_a_pack_that_does_not_serve_is_taken_all_the_same(
    plain: Project, catalogue: Catalogue, series: int
) -> None:
    picked = {"pack.cell": "kimbry-18-26", "pack.series": series, "pack.parallel": 1}
    choice = evaluate(with_values(plain, picked), catalogue).sized.choice
    assert (choice.cell.id, choice.series, choice.parallel) == ("kimbry-18-26", series, 1)
