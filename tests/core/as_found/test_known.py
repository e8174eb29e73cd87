"""What the fields of a found pack come to."""

import numpy as np
import pytest

from lumvak.core.as_found.known import full_of, known_of, spread_of
from lumvak.core.as_found.span import exactly
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.files.catalogue_file import load_catalogue

PARTS = load_catalogue()[0]


def test_a_cell_that_was_read_says_what_its_sheet_does() -> None:
    known = known_of(
        AsFound(cell="ostrel-18-25p", parallel=4, years=0.0, cycles=0.0, group_v=(3.7, 3.7)), PARTS
    )
    assert known.cell is not None and known.full_cell_v == 4.2
    assert known.cell_a.value == pytest.approx(0.8 * 20.0)
    assert known.wear.capacity_ah.value == pytest.approx(10.0)
    # 30 A for 10 s by its sheet.
    assert known.pulses[10.0] == exactly(1.5)


def test_an_unknown_cell_may_be_any_of_its_form() -> None:
    seen = known_of(AsFound(form="18650", parallel=4), PARTS)
    any_one = known_of(AsFound(parallel=4), PARTS)
    for cell in (it for it in PARTS.cells.values() if it.format == "18650"):
        held = known_of(AsFound(cell=cell.id, parallel=4), PARTS).cell_a
        assert seen.cell_a.low <= held.low and held.high <= seen.cell_a.high, cell.id
    assert any_one.cell_a.high >= seen.cell_a.high


def test_cells_in_a_group_by_what_it_was_sold_with() -> None:
    known = known_of(AsFound(cell="ostrel-18-25p", promised_ah=10.0), PARTS)
    assert known.parallel.value == 4.0 and known.parallel.low <= 2.0 and known.parallel.high >= 5.0
    assert known_of(AsFound(parallel=7, promised_ah=10.0), PARTS).parallel == exactly(7.0)


def test_groups_lie_as_far_apart_as_their_curve_says() -> None:
    chemistry = PARTS.chemistries["nmc"]
    charge, volts = np.array(chemistry.curve).T
    pair = tuple(float(np.interp(it, charge, volts)) for it in (0.7, 0.55))
    assert spread_of(pair, chemistry) == pytest.approx(0.15, abs=1e-6)
    assert spread_of((3.7,), chemistry) is None and spread_of((), chemistry) is None
    assert full_of(None, chemistry) == volts[-1]


def test_volts_say_nothing_of_charge_where_the_chemistry_is_not_known() -> None:
    volts = (3.3, 3.28)
    assert known_of(AsFound(group_v=volts), PARTS).spread is None
    told = known_of(AsFound(group_v=volts, chemistry="lfp"), PARTS)
    assert told.spread is not None and told.spread > 0.05
