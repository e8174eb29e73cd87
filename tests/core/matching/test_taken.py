"""A sheet's cell as a lot was measured: other currents, pulses and warmth."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import Lot
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.matching.taken import AsTaken, as_taken, how_taken, pulse_factor, told_apart
from lumvak.core.run.one_cell import given_ah
from lumvak.core.spelling import spoken
from tests.core.matching.test_matched import changed, codes, roller, seated

__all__ = ["roller"]


@pytest.fixture
def sheet(catalogue: Catalogue) -> tuple[Cell, Behaviour]:
    cell = catalogue.cells["ostrel-21-40p"]
    return cell, behaviour_of(cell, catalogue.chemistry_of(cell))


def test_without_a_word_readings_are_held_against_the_sheet(
    sheet: tuple[Cell, Behaviour],
) -> None:
    cell, behaviour = sheet
    taken = as_taken(Lot(), cell, behaviour, cell.capacity_typical_ah)
    assert taken == AsTaken.from_sheet(cell)
    assert spoken(taken.how) == ""
    assert given_ah(cell, behaviour, None, None) == cell.capacity_typical_ah


def test_a_pulse_reads_by_its_length_charge_and_warmth(sheet: tuple[Cell, Behaviour]) -> None:
    _, behaviour = sheet
    short, long = (pulse_factor(Lot(pulse_s=s), behaviour) for s in (0.1, 60.0))
    assert short < 1.0 < long
    # A pulse of no length reads what is there at once.
    at_once = pulse_factor(Lot(pulse_s=1e-6), behaviour)
    ten = behaviour.time_factor(10.0) * behaviour.steady_ohm
    assert at_once == pytest.approx(behaviour.fast_ohm / ten, rel=1e-6)
    assert (
        pulse_factor(Lot(pulse_c=0.0), behaviour) > 1.0 > pulse_factor(Lot(pulse_c=45.0), behaviour)
    )
    assert pulse_factor(Lot(pulse_charge=0.05), behaviour) > 1.0
    assert pulse_factor(
        Lot(pulse_s=10.0, pulse_charge=0.5, pulse_c=25.0), behaviour
    ) == pytest.approx(1.0)


def test_what_a_pulse_read_is_brought_back_to_ten_seconds(sheet: tuple[Cell, Behaviour]) -> None:
    cell, behaviour = sheet
    lot = Lot(pulse_s=1.0, pulse_c=10.0)
    taken = as_taken(lot, replace_dc(cell), behaviour, 4.0)
    assert taken.ohm is not None
    assert taken.ohm * taken.dc_over == pytest.approx(0.02)
    ac = as_taken(Lot(resistance_by="ac", pulse_s=1.0), replace_dc(cell), behaviour, 4.0)
    assert (ac.ohm, ac.dc_over) == (0.01, pytest.approx(2.0))


def replace_dc(cell: Cell) -> Cell:
    return replace(cell, resistance_dc_ohm=0.02, resistance_ac_ohm=0.01)


def test_a_cell_gives_less_at_more_current_and_to_a_higher_voltage(
    sheet: tuple[Cell, Behaviour],
) -> None:
    cell, behaviour = sheet
    rated = cell.capacity_typical_ah
    by_current = [given_ah(cell, behaviour, amps, None) for amps in (0.2 * rated, rated, 4 * rated)]
    assert by_current[0] == rated
    assert rated > by_current[1] > by_current[2] > 0.0
    by_end = [given_ah(cell, behaviour, None, volts) for volts in (2.6, 3.0, 3.4)]
    assert rated > by_end[0] > by_end[1] > by_end[2] > 0.0
    # Nothing of it, and no exception, where the first instant is past the end.
    assert given_ah(cell, behaviour, 1e4, None) == pytest.approx(0.0, abs=1e-3)


def test_a_straight_cell_gives_what_its_line_says(sheet: tuple[Cell, Behaviour]) -> None:
    cell, behaviour = sheet
    line = replace(
        behaviour,
        rest_charge=np.array([0.0, 1.0]),
        rest_v=np.array([3.0, 4.2]),
        shape_charge=np.array([0.0, 1.0]),
        shape=np.array([1.0, 1.0]),
        fast_ohm=0.04,
        slow_ohm=0.0,
        lag_s=0.01,
        reach_h=0.0,
        reach_exponent=2.0,
        capacity_scale=1.0,
        fit=None,
    )
    plain = replace(cell, voltage_empty_v=3.0, voltage_full_v=4.2, capacity_typical_ah=2.5)
    # 3.0 to 4.2 V straight, 40 mohm: at I the share 1 - 0.04 I / 1.2 comes out.
    share = (1.0 - 0.04 * 2.5 / 1.2) / (1.0 - 0.04 * 0.5 / 1.2)
    assert given_ah(plain, line, 2.5, None) == pytest.approx(2.5 * share, rel=2e-3)


def test_lots_that_were_measured_in_several_ways_are_told() -> None:
    one, two = Lot(name="a", capacity_a=0.5), Lot(name="b", capacity_to_v=3.0)
    assert spoken(told_apart([one, one])) == ""
    assert spoken(told_apart([one, two])) in (
        "a at 500 mA, b to 3 V",
        "b to 3 V, a at 500 mA",
        "a at 0.5 A, b to 3 V",
        "b to 3 V, a at 0.5 A",
    )
    assert "does not say how" in spoken(told_apart([one, Lot(name="c")]))
    assert spoken(how_taken(1.0, 2.5)) == "at 1 A to 2.5 V"


def test_a_lot_taken_hard_is_not_rejected_as_small(roller: Project, catalogue: Catalogue) -> None:
    lot = roller.hand.lots[0]
    plain = evaluate(roller, catalogue).sized.in_hand.lots[0]
    assert plain.sheet is not None
    hard = with_values(roller, {"hand.lots": (replace(lot, capacity_to_v=3.3),)})
    seen = evaluate(hard, catalogue).sized.in_hand.lots[0]
    assert seen.sheet is not None
    assert seen.sheet.ah < plain.sheet.ah
    small = [item for item in seen.cells if any(r.code == "small" for r in item.reasons)]
    assert all("to 3.3 V" in spoken(item.said) for item in small)


def test_capacities_of_two_kinds_are_not_summed_in_silence(
    roller: Project, catalogue: Catalogue
) -> None:
    lot = roller.hand.lots[0]
    two = with_values(roller, {"hand.lots": (lot, replace(lot, name="other", capacity_a=2.0))})
    two = changed(two, 2, lot="other")
    sitting = seated(two, [1, 2, 3, 4], 1)
    assert "hand-mixed" in codes(evaluate(sitting, catalogue))
    assert "hand-mixed" not in codes(evaluate(seated(two, [1, 3, 4], 1), catalogue))
