"""Where each balance lead goes, its pin and what lies under it."""

import numpy as np
import pytest

from lumvak.core.catalogue.boards import Plug
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.evaluation import Evaluation
from lumvak.core.taps.guide import by_side, guide_of, order_said, pins_of, unused_pins


def test_each_joint_has_one_lead_on_a_terminal_of_it(seen: Evaluation) -> None:
    layout, level = seen.table.layout, seen.balance.check.level_v
    leads = BalanceLeads(colours=("black", "white", "blue"))
    guides = guide_of(leads, seen.taps, layout, None, level)
    assert len(guides) == layout.series + 1
    for number, item in enumerate(guides):
        assert item.number == number
        assert layout.level[item.terminal] == number
        assert item.place.startswith(layout.name[item.terminal // 2])
        assert item.colour == ("black", "white", "blue")[number % 3]
        assert item.expected_v == pytest.approx(level[number])
        assert item.pin == f"B{number}"
        assert item.length_mm == pytest.approx(float(seen.taps.length_mm[number]))
        assert item.route_mm[0] == pytest.approx(layout.terminal_mm[item.terminal][:2])
        assert item.route_mm[-1] == pytest.approx(seen.taps.board_mm[:2])
        # What lies under a way differs by no more than the pack has.
        assert 0.0 <= item.across_v <= level[-1]
        if item.across is not None:
            assert item.across_v == pytest.approx(abs(level[item.across] - level[number]))
    worked = by_side(guides)
    sides = [item.side for item in worked]
    assert sides == sorted(sides)
    assert sorted(item.number for item in worked) == list(range(layout.series + 1))


def test_conventions_of_boards() -> None:
    assert pins_of(Plug(), 3) == [("B0", 1), ("B1", 1), ("B2", 1), ("B3", 1)]
    assert pins_of(Plug(first="positive"), 3)[0] == ("", 0)
    assert pins_of(Plug(last="main"), 3)[3] == ("", 0)
    named = Plug(pins=("P-", "1", "2", "3"), sizes=(2, 2))
    assert pins_of(named, 3) == [("P-", 1), ("1", 1), ("2", 2), ("3", 2)]
    # A board of more groups than there are has pins to spare.
    assert unused_pins(Plug(), 6, 4) == ("B5", "B6")
    assert unused_pins(Plug(), 4, 4) == ()
    assert order_said(None).startswith("Main minus first")


def test_ways_end_at_the_board_where_one_is_placed(seen: Evaluation) -> None:
    assert seen.taps.board_mm.shape == (3,)
    assert np.isfinite(seen.taps.board_mm).all()
