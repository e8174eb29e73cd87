"""Packs as a whole: what each part carries while all run, and once one has opened."""

import pytest
from msgspec.structs import replace

from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import SideLimit
from lumvak.core.beside.together import together
from tests.beside_pairs import straight

ONE = straight("one", 42.0, 58.8, 9.0, 0.09)
OTHER = straight("other", 42.0, 58.8, 20.0, 0.06)


def test_what_takes_all_once_the_other_opened_is_told_apart() -> None:
    early = replace(ONE, stop_v=50.0, limits=(SideLimit("BMS", 15.0, 5.0),))
    late = replace(OTHER, stop_v=44.0, limits=(SideLimit("BMS", 18.0, 5.0),))
    found = together([early, late], SharedLoad(amps=20.0))
    assert found.first_opens is not None and found.first_opens[0] == "one"
    carried = {(it.side, it.when): it for it in found.carried}
    assert carried["other", "alone"].carries_a == pytest.approx(20.0)
    assert not carried["other", "alone"].holds and carried["other", "giving"].holds
    assert ("one", "alone") not in carried


def test_together_they_run_longer_than_the_sum_of_both_alone() -> None:
    """At less current each loses less: the sum of both alone is too little."""
    found = together([ONE, OTHER], SharedLoad(amps=20.0))
    assert found.course is not None
    assert found.course.hours == pytest.approx(29.0 / 20.0, rel=0.01)
    assert all(found.course.hours > it for it in found.hours_alone)


def test_what_must_not_be_in_parallel_is_not_worked_out() -> None:
    found = together([ONE, replace(OTHER, series=13)], SharedLoad(amps=20.0))
    assert found.why_not and found.course is None and found.joining is None


def test_diodes_need_no_joining() -> None:
    low = replace(OTHER, at=0.3, limits=(SideLimit("BMS", 30.0, 1.0),))
    direct = together([ONE, low], SharedLoad(amps=10.0))
    assert any(it.when == "joined" and not it.holds for it in direct.carried)
    diodes = together([ONE, low], SharedLoad(amps=10.0), "diodes")
    assert diodes.joining is None and all(it.holds for it in diodes.carried)


def test_all_of_the_heat_in_the_cells_is_what_the_current_says() -> None:
    """A steady 10 A through 0.1 Ω for 0.9 h warms 1 kg by 10 · 3240 ÷ 950 K."""
    side = replace(straight("one", 42.0, 58.8, 9.0, 0.1), mass_kg=1.0, stop_v=41.0)
    found = together([side, replace(side, name="two")], SharedLoad(amps=20.0))
    assert found.course is not None
    seconds = found.course.hours * 3600.0
    assert found.rises_k == pytest.approx([10.0**2 * 0.1 * seconds / 950.0] * 2, rel=1e-3)
    assert [it.hours for it in found.alone] == list(found.hours_alone)
