"""Holders that do not take the cells, the rows or the strips; and rims that they cover."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, fixings_in_hand
from lumvak.core.spelling import spoken


def looked(catalogue: Catalogue, holder: str | None, **values: object) -> Evaluation:
    own = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 4,
        "pack.parallel": 2,
        "arrangement.holder": holder,
        **{name.replace("__", "."): value for name, value in values.items()},
    }
    return evaluate(with_values(Project(), own), catalogue)


def codes(evaluation: Evaluation) -> dict[str, str]:
    return {
        item.code: item.severity for item in evaluation.findings if item.code.startswith("holder-")
    }


@pytest.mark.parametrize(
    ("holder", "cell", "rows", "told"),
    [
        ("trellis-21", "ostrel-21-48", "straight", {}),
        ("wattle-21", "ostrel-21-48", "nested", {}),
        ("wattle-21", "ostrel-21-48", "straight", {"holder-rows": "warn"}),
        ("trellis-21", "ostrel-18-30p", "straight", {"holder-loose": "warn"}),
        ("trellis-21", "kimbry-p-50", "straight", {"holder-round": "stop"}),
    ],
)
def test_a_holder_goes_with_cells_and_rows(
    catalogue: Catalogue, holder: str, cell: str, rows: str, told: dict[str, str]
) -> None:
    evaluation = looked(
        catalogue,
        holder,
        pack__cell=cell,
        arrangement__rows=rows,
        joints__group__part="nickel-0.15x8",
        joints__series__part="nickel-0.15x8",
    )
    found = codes(evaluation)
    found.pop("holder-ribs", None)
    assert found == told


def test_a_cell_too_thick_for_its_holder_stops(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, "trellis-18")
    assert codes(evaluation)["holder-small"] == "stop"


def test_pieces_wider_than_the_channel_lie_on_the_ribs(catalogue: Catalogue) -> None:
    for width, told in ((8.0, False), (20.0, True)):
        evaluation = looked(
            catalogue,
            "trellis-21",
            joints__group__part="nickel-0.15x8",
            joints__group__width_mm=width,
            joints__group__strips=1,
            joints__series__part="nickel-0.15x8",
            joints__series__strips=1,
        )
        assert ("holder-ribs" in codes(evaluation)) == told
    sheet = looked(catalogue, "trellis-21", joints__side_a="sheet", joints__side_b="sheet")
    assert "holder-ribs" in codes(sheet)


def test_a_rim_over_the_cells_edge_takes_the_place_of_rings(catalogue: Catalogue) -> None:
    bare, held = looked(catalogue, None), looked(catalogue, "trellis-21")
    assert bare.figures["clearance.rings"].value == 8
    assert held.figures["clearance.rings"].value == 0
    named = {spoken(item.name): item.count for item in fixings_in_hand(held)}
    assert "insulating ring" not in named and named["place of Trellis 21"] == 16
    assert held.figures["holder.pitch_mm"].value == 23.0
    # The joints are as long as the pitch.
    assert held.laid_out.series.chosen.section.length_mm == pytest.approx(23.0)
