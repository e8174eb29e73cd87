"""Where each balance lead goes, its pin and what lies under it."""

import time
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.boards import Plug
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.document.taps import BalanceLeads, TapWay
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, guides_in_hand
from lumvak.core.spelling import spoken
from lumvak.core.taps.guide import by_side, guide_of, order_said, pins_of, unused_pins


def test_each_joint_has_one_lead_on_a_terminal_of_it(evaluation: Evaluation) -> None:
    layout, level = evaluation.laid_out.joined_pack.layout, evaluation.balance.check.level_v
    leads = BalanceLeads(colours=("black", "white", "blue"))
    guides = guide_of(leads, evaluation.laid_out.taps, layout, None, level)
    assert len(guides) == layout.series + 1
    for number, item in enumerate(guides):
        assert item.number == number
        assert layout.level[item.terminal] == number
        assert item.place.startswith(layout.name[item.terminal // 2])
        assert item.colour == ("black", "white", "blue")[number % 3]
        assert item.expected_v == pytest.approx(level[number])
        assert item.pin == f"B{number}"
        assert item.length_mm == pytest.approx(float(evaluation.laid_out.taps.length_mm[number]))
        assert item.route_mm[0] == pytest.approx(layout.terminal_mm[item.terminal][:2])
        assert item.route_mm[-1] == pytest.approx(evaluation.laid_out.taps.board_mm[:2])
        # What lies under a way differs by no more than the pack has.
        assert 0.0 <= item.across_v <= level[-1]
        if item.across is not None:
            assert item.across_v == pytest.approx(abs(level[item.across] - level[number]))
    worked = by_side(guides)
    sides = [item.side for item in worked]
    assert sides == sorted(sides)
    assert sorted(item.number for item in worked) == list(range(layout.series + 1))


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    way=st.lists(st.tuples(st.integers(-40, 340), st.integers(-40, 200)), min_size=1, max_size=5),
    lead=st.integers(0, 14),
)
def test_what_lies_under_a_way_is_what_points_along_it_touch(
    evaluation: Evaluation, way: list[tuple[int, int]], lead: int
) -> None:
    """Against a point every half millimetre, and no can that the way only grazes."""
    layout, level = evaluation.laid_out.joined_pack.layout, evaluation.balance.check.level_v
    corners = tuple((float(x), float(y)) for x, y in way)
    taps = replace(evaluation.laid_out.taps, ways={lead: corners})
    guide = guide_of(BalanceLeads(), taps, layout, None, level)[lead]
    points = np.concatenate(
        [
            np.linspace(one, other, 2 + int(2.0 * np.hypot(*(other - one))))
            for one, other in pairwise(guide.route_mm)
        ]
    )
    same = np.flatnonzero(layout.face == layout.face[guide.terminal])

    def worst(slack: float) -> float:
        half = layout.half_mm[same // 2, :2] + slack
        away = np.abs(points[:, None] - layout.terminal_mm[same][None, :, :2])
        under = same[(away <= half).all(axis=2).any(axis=0)]
        return float(np.abs(level[layout.level[under]] - level[lead]).max(initial=0.0))

    assert worst(-0.3) <= guide.across_v + 1e-9
    assert guide.across_v <= worst(0.6) + 1e-9


def test_many_corners_cost_nothing(even_barrow: Project, catalogue: Catalogue) -> None:
    """20 corners at ±10 m on every lead of 20S10P once never came to an end."""
    draw = np.random.default_rng(1)
    ways = tuple(
        TapWay(lead=lead, corners=tuple(map(tuple, draw.uniform(-1e4, 1e4, (20, 2)).tolist())))
        for lead in range(21)
    )
    changes = {"pack.series": 20, "pack.parallel": 10, "balance_leads.ways": ways}
    evaluation = evaluate(with_values(even_barrow, changes), catalogue)
    begun = time.process_time()
    guides = guides_in_hand(evaluation)
    assert time.process_time() - begun < 5.0 and len(guides) == 21
    told = next(item for item in evaluation.findings if item.code == "taps-astray")
    assert spoken(told.text).startswith("The route of lead 0, 1, 2")


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


def test_ways_end_at_the_board_where_one_is_placed(evaluation: Evaluation) -> None:
    assert evaluation.laid_out.taps.board_mm.shape == (3,)
    assert np.isfinite(evaluation.laid_out.taps.board_mm).all()
