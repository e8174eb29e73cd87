"""Unplugged for a while, and braked into: by hand beside it."""

import pytest
from msgspec.structs import replace

from lumvak.core.beside.sharing import SharedLoad, now_shared
from lumvak.core.beside.side import SideLimit
from lumvak.core.beside.what_if import braking, replugged
from tests.beside_pairs import straight

ONE = straight("one", 42.0, 58.8, 10.0, 0.1)
OTHER = straight("other", 42.0, 58.8, 10.0, 0.1)


def test_what_was_unplugged_stands_higher_by_what_the_other_gave() -> None:
    """Alike, 5 A each for 12 minutes, then 10 A from one for 6: 0.9 and 0.8 of their charge."""
    found = replugged(ONE, OTHER, SharedLoad(amps=10.0), 720.0, 360.0)
    assert found.charges == pytest.approx((0.8, 0.9), abs=1e-4)
    assert found.joining.apart_v == pytest.approx(-1.68, abs=0.01)
    assert found.joining.peak_a == pytest.approx(1.68 / 0.2, abs=0.05)


def test_a_brake_is_shared_by_resistance() -> None:
    strong = replace(OTHER, ohm=0.05, limits=(SideLimit("cells", 20.0, 4.0),))
    flows = now_shared([ONE, strong], -9.0)
    assert flows == pytest.approx((-3.0, -6.0))
    (cells,) = braking([ONE, strong], 9.0)
    assert (cells.side, cells.carries_a, cells.holds) == ("other", pytest.approx(6.0), False)
    # One that stands higher gives all the same, into the other.
    low = replace(ONE, at=0.8)
    assert now_shared([low, OTHER], -1.0)[1] > 0.0
