"""What a pack weighs, added up by hand; where its weight lies, by the lever."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken

PLAIN = {"pack.cell": "ostrel-21-48", "pack.series": 4, "pack.parallel": 2,
         "protection.board": "wicket-10-30", "leads.area_mm2": 4.0,
         "leads.length_m": 0.5}  # fmt: skip


def looked(catalogue: Catalogue, **values: object) -> Evaluation:
    own = {name.replace("__", "."): value for name, value in values.items()}
    return evaluate(with_values(Project(), {**PLAIN, **own}), catalogue)


def grams(evaluation: Evaluation, kind: str) -> float:
    return sum(item.mass_g for item in evaluation.laid_out.inside.things if item.kind == kind)


def test_the_pack_weighs_the_sum_of_all_that_is_in_it(catalogue: Catalogue) -> None:
    holder = catalogue.holders["trellis-21"]
    evaluation = looked(
        catalogue,
        arrangement__holder=holder.id,
        arrangement__kept_free=(
            {"name": "BMS", "kind": "board", "x_mm": 0.0, "y_mm": 60.0},
            {
                "name": "mat",
                "kind": "foam",
                "x_mm": 70.0,
                "y_mm": 60.0,
                "length_mm": 50.0,
                "width_mm": 20.0,
                "height_mm": 10.0,
            },
            {"name": "meter", "x_mm": 130.0, "y_mm": 60.0, "height_mm": 9.0, "mass_g": 120.0},
        ),
    )
    cell, board = evaluation.sized.choice.cell, evaluation.sized.boards.board
    assert board is not None
    assert grams(evaluation, "cells") == pytest.approx(8 * cell.mass_g)
    assert grams(evaluation, "holders") == pytest.approx(16 * holder.mass_g)
    # Ten cubic centimetres of foam.
    assert grams(evaluation, "parts") == pytest.approx(board.mass_g + 10 * 0.03 + 120.0)
    # Two leads of copper, 8.96 g/cm3, and three grams a metre of balance lead.
    taps = 3.0 * float(evaluation.laid_out.taps.length_mm.sum()) / 1000.0
    assert grams(evaluation, "leads") == pytest.approx(2 * 500.0 * 4.0 * 8.96e-3 + taps, rel=0.01)
    whole = sum(item.mass_g for item in evaluation.laid_out.inside.things)
    assert evaluation.figures["layout.mass_kg"].number == pytest.approx(whole / 1000.0)
    assert evaluation.figures["layout.holders_cost"].number == pytest.approx(16 * holder.price)


def test_what_nobody_weighed_is_named(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, arrangement__kept_free=({"name": "horn", "y_mm": 60.0},))
    parts = evaluation.figures["layout.parts_g"]
    assert parts.assumed and "horn" in spoken(parts.rule)
    sure = looked(
        catalogue, arrangement__kept_free=({"name": "horn", "y_mm": 60.0, "mass_g": 1.0},)
    )
    assert not sure.figures["layout.parts_g"].assumed


def test_a_heavy_part_draws_the_centre_by_the_lever(catalogue: Catalogue) -> None:
    def centre(mass_g: float) -> tuple[float, float, float]:
        evaluation = looked(
            catalogue,
            arrangement__kept_free=(
                {
                    "name": "pump",
                    "x_mm": 200.0,
                    "y_mm": 0.0,
                    "length_mm": 40.0,
                    "width_mm": 40.0,
                    "height_mm": 30.0,
                    "mass_g": mass_g,
                },
            ),
        )
        x, y, z = (evaluation.figures[f"layout.centre_{axis}_mm"].number for axis in "xyz")
        return x, y, z

    bare = looked(catalogue)
    without = 1000.0 * bare.figures["layout.mass_kg"].number
    start = centre(0.0)
    pulled = centre(500.0)
    corner = (*bare.laid_out.joined_pack.layout.corner_mm, 0.0)
    for axis, middle in enumerate((220.0, 20.0, 15.0)):
        lever = (without * start[axis] + 500.0 * (middle - corner[axis])) / (without + 500.0)
        assert pulled[axis] == pytest.approx(lever, abs=0.2)


def test_barriers_and_plates_weigh_their_volume(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, arrangement__barrier_v=0.0)
    pairs, cell = len(evaluation.laid_out.barriers.pairs), evaluation.sized.choice.cell
    sheets = next(
        item for item in evaluation.laid_out.inside.things if spoken(item.name) == "barriers"
    )
    assert sheets.mass_g == pytest.approx(pairs * 0.2 * 21.3 * cell.height_mm * 1.2e-3)
    pouches = looked(catalogue, pack__cell="kimbry-p-50", arrangement__plate_mm=3.0)
    plates = next(
        item for item in pouches.laid_out.inside.things if item.name == "compression plates"
    )
    wide = pouches.sized.choice.cell.footprint_mm[0] * pouches.sized.choice.cell.height_mm
    assert plates.mass_g == pytest.approx(2 * 3.0 * wide * 2.7e-3)
