"""What there is to notice about packs in parallel."""

from msgspec.structs import replace

from lumvak.core.beside.findings import beside_findings
from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import SideLimit
from lumvak.core.beside.together import together
from lumvak.core.spelling import spoken
from tests.beside_pairs import straight

LIMITS = (SideLimit("BMS", 15.0, 5.0),)
ONE = replace(straight("one", 42.0, 58.8, 9.0, 0.09), limits=LIMITS)
OTHER = replace(straight("other", 42.0, 58.8, 20.0, 0.06), limits=LIMITS)


def codes(*sides: object, amps: float = 8.0) -> dict[str, str]:
    found = together(sides, SharedLoad(amps=amps))  # type: ignore[arg-type]
    return {it.code: spoken(it.text) for it in beside_findings(found)}


def test_level_and_within_its_limits_there_is_nothing() -> None:
    assert codes(ONE, OTHER) == {}


def test_never_apart_over_and_by_a_port_that_hides() -> None:
    assert "without end" in codes(ONE, replace(OTHER, series=13))["beside-never"]
    apart = codes(ONE, replace(OTHER, at=0.5))
    assert apart["beside-apart"].startswith("Other must not be joined as it stands: 8.4 V apart")
    assert "carries" in codes(ONE, OTHER, amps=40.0)["beside-over"]
    hidden = replace(OTHER, notes=("nothing ends it there",))
    assert codes(ONE, hidden) == {"beside-port": "nothing ends it there"}


def test_each_plug_of_three_is_looked_at() -> None:
    found = together([ONE, OTHER, replace(OTHER, name="third", at=0.4)], SharedLoad(amps=8.0))
    told = [spoken(it.text) for it in beside_findings(found) if it.code == "beside-apart"]
    assert len(told) == 1 and told[0].startswith("Third")
