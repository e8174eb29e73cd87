"""Limits that stop a charge before anything else is said."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.absolute import Limits, limits_of, not_begun, passed
from lumvak.core.checked import made
from lumvak.core.document.charging import LogRow
from lumvak.core.spelling import spoken
from tests.core.charging.test_charger import setting_of

LIMITS = Limits(4.22, "full", 42.2, 0.0, 45.0, 19.2, 2.0)


def row(volts: float = 40.0, **more: object) -> LogRow:
    return made(LogRow, {"seconds": 1.0, "volts": volts, **more})


@pytest.mark.parametrize(
    ("reading", "amps", "codes"),
    [
        (row(), 9.0, []),
        (row(groups=(4.0, 4.45, 4.1)), 2.0, ["group-over"]),
        (row(44.5), 2.0, ["pack-over"]),
        (row(warm_c=70.0), 0.0, ["hot"]),
        (row(warm_c=-8.0), 5.0, ["cold"]),
        # At rest the cold does no harm.
        (row(warm_c=-8.0), 0.0, []),
        (row(), 40.0, ["amps-over"]),
        (row(groups=(3.4, 1.2, 3.4)), 2.0, ["group-dead"]),
        (
            row(44.5, groups=(4.45, 1.2), warm_c=70.0),
            40.0,
            ["group-over", "group-dead", "pack-over", "hot", "amps-over"],
        ),
    ],
)
def test_each_limit_stops(reading: LogRow, amps: float, codes: list[str]) -> None:
    found = list(passed(LIMITS, reading, amps))
    assert [item.code for item in found] == codes
    for item in found:
        # First the mains, then the plug.
        do = spoken(item.do)
        assert do.index("mains") < do.index("unplug")


def test_limits_are_those_of_cell_and_board(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    limits = limits_of(setting)
    assert limits.group_v == pytest.approx(4.2 * 1.005)
    assert limits.pack_v == pytest.approx(13 * 4.2 * 1.005)
    assert limits.most_a == setting.most_cells.number
    assert setting.board is not None
    early = replace(setting.board, over_voltage_v=4.15, over_voltage_release_v=4.0)
    assert limits_of(replace(setting, board=early)).group_v == 4.15
    # A balancer cuts nothing off.
    balancer = replace(early, kind="balancer")
    assert limits_of(replace(setting, board=balancer)).group_v == pytest.approx(4.2 * 1.005)


def test_a_charge_does_not_begin_in_the_cold_or_with_a_dead_group(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    assert not_begun(setting, (3.4, None, 3.4)) is None
    dead = not_begun(setting, (3.4, None, 1.2))
    assert dead is not None and dead.code == "group-dead" and "group 3" in spoken(dead.text)
    assert "Never charge it again" in spoken(dead.do)
    cold = replace(setting, celsius=-10.0)
    felt, numb = (not_begun(replace(cold, senses=senses), ()) for senses in (True, False))
    assert felt is not None and "does not begin under 0 °C" in spoken(felt.means)
    assert numb is not None and "nothing here feels it" in spoken(numb.means)
    hot = not_begun(replace(setting, celsius=60.0, senses=True), ())
    assert hot is not None and hot.code == "hot" and "Cool" in spoken(hot.do)
