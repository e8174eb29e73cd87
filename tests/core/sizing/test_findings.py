"""What there is to notice about cells and count."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from tests.core.cells.test_sheet_fit import MADE, drawn, of


def codes(project: Project, catalogue: Catalogue) -> dict[str, str]:
    """Codes of the findings, with their severity."""
    return {item.code: item.severity for item in evaluate(project, catalogue).findings}


@pytest.mark.parametrize(
    ("rate", "celsius", "coldest", "told"),
    [
        (0.5, 0.0, 0.0, False),  # the barrow draws 0.65 C a cell: hardly faster
        (0.2, 0.0, 0.0, True),
        (1.0, 10.0, 0.0, True),
        (1.0, 0.0, -10.0, True),
        (1.0, -10.0, 0.0, False),
        (0.2, 0.0, 18.0, False),
    ],
)
def test_a_pack_colder_or_faster_than_its_sheet_is_told(
    barrow: Project, catalogue: Catalogue, rate: float, celsius: float, coldest: float, told: bool
) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    curves = (drawn(cell, true, 0.2), drawn(cell, true, 1.0), drawn(cell, true, rate, celsius))
    sheet = replace(cell, curves=curves)
    project = replace(barrow, parts=replace(barrow.parts, cells=(sheet,)))
    project = with_values(project, {"need.coldest_c": coldest, "need.current_a": 20.0})
    assert ("beyond-sheet" in codes(project, catalogue)) is told


def test_a_cell_without_curves_is_not_told_of_them(barrow: Project, catalogue: Catalogue) -> None:
    cold = with_values(barrow, {"need.coldest_c": -10.0})
    assert "beyond-sheet" not in codes(cold, catalogue)


def test_a_power_load_is_told_with_what_it_draws_at_both_ends(
    barrow: Project, catalogue: Catalogue
) -> None:
    project = with_values(barrow, {"need.load_basis": "power", "need.power_w": 900.0})
    evaluation = evaluate(project, catalogue)
    told = next(item for item in evaluation.findings if item.code == "power-load")
    nominal = evaluation.sized.pack.at_nominal
    assert nominal is not None
    load_w = evaluation.sized.demand.load.power_w
    assert load_w is not None
    assert nominal.number == pytest.approx(load_w / evaluation.sized.pack.nominal.number)
    assert nominal.number < evaluation.sized.pack.current.number
    assert told.beside == (nominal.key,)
    assert nominal.key in evaluation.figures
