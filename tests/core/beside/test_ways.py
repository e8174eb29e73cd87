"""Ways to join: what each prevents and loses."""

import pytest
from msgspec.structs import replace

from lumvak.core.beside.sharing import DIODE_V, IDEAL_OHM, SharedLoad
from lumvak.core.beside.ways import WAYS, ways_of
from tests.beside_pairs import straight

ONE = straight("one", 42.0, 58.8, 9.0, 0.09)
OTHER = replace(straight("other", 42.0, 58.8, 20.0, 0.06), at=0.7)


def test_only_what_lets_nothing_back_has_heat_of_its_own() -> None:
    ways = {it.by: it for it in ways_of((ONE, OTHER), SharedLoad(amps=20.0), 0.0)}
    assert list(ways) == [it[0] for it in WAYS]
    for by, way in ways.items():
        assert way.found.course is not None
        most = float(way.found.course.amps.max())
        lost = {"diodes": DIODE_V * most, "ideal-diodes": IDEAL_OHM * most**2}.get(by, 0.0)
        assert way.heat_w == pytest.approx(lost)
        assert (float(way.found.course.amps.min()) < -1e-6) == (by == "direct")
