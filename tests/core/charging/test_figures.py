"""Charge current of a pack whose cells were measured."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.matching.matched import place_name
from tests.core.matching.test_matched import roller

__all__ = ["roller"]


def placed(project: Project, series: int, parallel: int, ah: float) -> Project:
    """The project with cells of one capacity in all places."""
    cells = tuple(
        {"number": at + 1, "lot": project.hand.lots[0].name, "volts": 3.6, "ah": ah, "mohm": 47.0}
        for at in range(series * parallel)
    )
    seats = tuple(
        {"number": at + 1, "cell": place_name(*divmod(at, parallel))}
        for at in range(series * parallel)
    )
    return with_values(project, {"hand.cells": cells, "hand.placed": seats})


def test_the_weakest_group_is_charged_at_the_rate_of_the_sheet(
    roller: Project, catalogue: Catalogue
) -> None:
    before = evaluate(roller, catalogue)
    choice, cell = before.sized.choice, before.sized.choice.cell
    plain = before.sized.charge.current.number
    assert plain == pytest.approx(choice.parallel * cell.charge_standard_a)
    for share in (0.8, 0.5):
        worn = placed(roller, choice.series, choice.parallel, share * cell.capacity_typical_ah)
        charge = evaluate(worn, catalogue).sized.charge.current
        assert charge.number == pytest.approx(share * plain)
        assert any(figure.origin == "measured" for figure in charge.inputs[2].inputs)
    # Cells better than their sheet are not charged harder than it says.
    better = placed(roller, choice.series, choice.parallel, 1.1 * cell.capacity_typical_ah)
    assert evaluate(better, catalogue).sized.charge.current.number == pytest.approx(plain)
