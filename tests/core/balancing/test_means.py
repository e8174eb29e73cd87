"""What bleeds or moves charge between groups."""

from lumvak.core.balancing.balancing import balancing_now
from lumvak.core.balancing.means import ANY_V, board_bleed, means_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.charging import Charging
from lumvak.core.spelling import spoken
from tests.core.balancing.test_balancing import now_of


def test_a_board_bleeds_as_its_sheet_says(catalogue: Catalogue) -> None:
    board = catalogue.boards["wicket-14-30"]
    found = board_bleed(board, 4.2, None)
    assert found is not None
    assert (found.from_v, found.amps, found.always) == (4.18, 0.06, False)
    assert board_bleed(catalogue.boards["latch-5-30-plain"], 4.2, None) is None
    assert board_bleed(None, 4.2, None) is None
    other = board_bleed(catalogue.boards["yoke-14"], 4.2, None)
    assert other is not None and other.from_v == ANY_V and other.always


def test_nothing_evens_out_where_nothing_is_chosen_or_at_the_bottom(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.6, 0.5, 0.4])
    for charging in (Charging(by="none"), Charging(at="bottom")):
        found = balancing_now(means_of(charging, setting.board, 4.2, None), now, None, 4.2)
        assert not found.works
        assert found.hours is None and "nothing balances" in spoken(found.because)
    bleed = means_of(Charging(), setting.board, 4.2, 0.015).bleed
    assert bleed is not None and bleed.spread_v == 0.015
