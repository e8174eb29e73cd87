"""The bill of materials, counted again by hand."""

import math

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.bill import bill_cost, bill_of
from lumvak.core.spelling import spoken


def test_cells_strips_tube_and_parts_are_those_of_the_pack(designed: Evaluation) -> None:
    lines = {spoken(it.what): it for it in bill_of(designed)}
    choice = designed.sized.choice
    cells = lines[f"cell {choice.cell.name}"]
    count = choice.series * choice.parallel
    assert cells.count == count + math.ceil(0.02 * count)
    assert cells.cost == pytest.approx(cells.count * choice.cell.price)
    metres = sum(it.size.length_mm * it.layers * it.strips for it in designed.cuts) / 1000.0
    cut = sum(it.count for name, it in lines.items() if "waste" in spoken(it.note))
    assert cut == pytest.approx(1.1 * metres, abs=0.02)
    sides = sorted(
        designed.figures[f"layout.{it}_mm"].number for it in ("length", "width", "height")
    )
    (tube,) = (name for name in lines if name.startswith("shrink tube"))
    flat = float(tube.split()[2])
    # It slips over the pack lying, and not with a hand's room.
    assert 0.0 < 2.0 * flat - 2.0 * (sides[0] + sides[1]) < 20.0
    leads = next(it for name, it in lines.items() if name.startswith("main leads"))
    assert leads.count == pytest.approx(2.0 * designed.project.leads.length_m)
    board = designed.power.made
    assert board is not None and f"BMS, {board.name}" in lines


def test_the_cost_is_the_sum_of_what_is_known(designed: Evaluation) -> None:
    lines = bill_of(designed)
    known = [it.cost for it in lines if it.cost is not None]
    assert bill_cost(lines) == pytest.approx(math.fsum(known)) and len(known) < len(lines)
