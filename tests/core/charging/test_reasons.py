"""What speaks against a charger besides its set volts."""

from typing import Any

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.reasons import end_current, full_words
from lumvak.core.charging.verdict import verdict_on
from lumvak.core.checked import made
from lumvak.core.spelling import spoken
from tests.core.charging.test_charger import setting_of, without_cut_off
from tests.core.charging.test_verdict import judged


def test_without_a_board_every_charger_leans(catalogue: Catalogue) -> None:
    from msgspec.structs import replace

    setting = replace(setting_of(catalogue), board=None)
    charger = Charger(id="one", volts=54.6, amps=2.0)
    assert verdict_on(charger, setting).kind == "leans"


def test_words_for_what_is_full() -> None:
    assert spoken(full_words(0.94)) == "94 % full"
    assert spoken(full_words(0.999)) == "practically full"
    assert end_current(Charger(id="one", volts=42.0, amps=2.0)) == pytest.approx(0.2)
    assert end_current(Charger(id="one", volts=42.0, amps=2.0, end_a=0.1)) == 0.1


@pytest.mark.parametrize("how", ["none", "balancer", "late"])
@pytest.mark.parametrize(
    ("charger", "wanted"),
    [
        ({"volts": 54.6}, "leans"),
        ({"volts": 53.0}, "leans"),
        ({"volts": 55.1}, "wrong"),
        ({"volts": 60.0}, "wrong"),
        ({"volts": 60.0, "kind": "nickel"}, "wrong"),
        ({"volts": 54.6, "kind": "lead"}, "wrong"),
        ({"volts": 54.6, "kind": "lead", "equalise": "off"}, "leans"),
    ],
)
def test_where_nothing_cuts_off_more_than_full_is_wrong(
    catalogue: Catalogue, how: str, charger: dict[str, Any], wanted: str
) -> None:
    found = verdict_on(
        made(Charger, {"id": "one", "amps": 2.0, **charger}),
        without_cut_off(catalogue, how),
    )
    assert (found.kind, found.stop, found.alone) == (wanted, wanted == "wrong", True)
    assert "on the BMS" not in spoken(found.words) and "only the BMS" not in spoken(found.words)
    assert "no BMS cuts off" in spoken(found.board_fails)


def test_what_is_not_known_is_said_in_every_kind(catalogue: Catalogue) -> None:
    for volts in (12.0, 13.6, 14.4, 14.6, 15.0):
        found = judged(catalogue, "fennimor-b-105", 4, volts, 10.0, "lead")
        assert any("equalise stage" in spoken(item.text) for item in found.reasons), volts
