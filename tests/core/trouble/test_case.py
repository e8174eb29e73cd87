"""A pack of which only count and chemistry are known."""

import pytest

from lumvak.core.trouble.case import TroubleMeter, case_of
from lumvak.files.catalogue_file import load_catalogue

PARTS = load_catalogue()[0]


@pytest.mark.parametrize("name", ["nmc", "lfp"])
def test_a_group_rests_between_empty_and_full(name: str) -> None:
    case = case_of(10, PARTS.chemistries[name])
    assert case.empty_v < case.rest_v < case.full_v
    assert case.charger_v == pytest.approx(10 * case.full_v)
    flat, steep = (case_of(4, PARTS.chemistries[it]) for it in ("lfp", "nmc"))
    assert flat.rest_off_v < steep.rest_off_v


def test_the_last_digit_is_that_of_the_range() -> None:
    meter = TroubleMeter()
    assert [meter.digit_v(it) for it in (3.7, 37.0, 370.0)] == pytest.approx([0.001, 0.01, 0.1])
