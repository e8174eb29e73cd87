"""A pack at rest."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.power import Rest
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.at_rest import charge_at_rest, shelf_of


def test_days_on_the_shelf_are_charge_over_drain(
    catalogue: Catalogue, evaluation: Evaluation
) -> None:
    cell = evaluation.sized.choice.cell
    chemistry = catalogue.chemistry_of(cell)
    seen_cell = evaluation.sized.sized_pack.behaviour
    board = catalogue.boards["wicket-14-30"]
    capacity = evaluation.figures["pack.capacity_ah"]
    rest = Rest(charge=0.6, meter_ma=10.0, month_loss=0.0)
    shelf = shelf_of(rest, cell, chemistry.family, seen_cell, 7, capacity, board)
    at_cut = charge_at_rest(seen_cell, board.under_voltage_v)
    drain = board.quiescent_a + 0.010
    assert shelf.cut_days.number == pytest.approx((0.6 - at_cut) * capacity.number / drain / 24.0)
    # Once the board has cut off the meter is off too.
    off = board.off_a or 0.0
    left = (at_cut - charge_at_rest(seen_cell, cell.voltage_empty_v - 0.5)) * capacity.number
    assert shelf.harm_days.number == pytest.approx(left / off / 24.0)
    nothing = replace(board, quiescent_a=0.0, off_a=0.0)
    ever = shelf_of(Rest(month_loss=0.0), cell, chemistry.family, seen_cell, 7, capacity, nothing)
    assert ever.cut_days.value is None
    curve = chemistry.curve
    assert charge_at_rest(seen_cell, curve[0][1]) == pytest.approx(0.0, abs=1e-6)
    assert charge_at_rest(seen_cell, curve[0][1] - 0.5) == pytest.approx(-0.02)


def test_what_draws_adds_up_before_and_after_the_cut_off(
    catalogue: Catalogue, evaluation: Evaluation
) -> None:
    cell, family = (
        evaluation.sized.choice.cell,
        catalogue.chemistry_of(evaluation.sized.choice.cell).family,
    )
    board, capacity = catalogue.boards["wicket-14-30"], evaluation.figures["pack.capacity_ah"]
    rest = Rest(charge=0.6, meter_ma=10.0, converter_ma=2.0, month_loss=0.02)
    for fitted in (board, None):
        shelf = shelf_of(
            rest, cell, family, evaluation.sized.sized_pack.behaviour, 7, capacity, fitted
        )
        before, after = (figure.number for figure in shelf.figures[:2])
        assert sum(item.before_ma for item in shelf.drains) == pytest.approx(before)
        assert sum(item.after_ma for item in shelf.drains) == pytest.approx(after)
        put, cut, harm = shelf.charges
        assert put == 0.6 >= cut >= harm
        days = (put - cut) * capacity.number * 1e3 / before / 24.0
        assert shelf.cut_days.number == pytest.approx(days)
