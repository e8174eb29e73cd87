"""Audits of packs whose truth is known: the short form of ./bench audit."""

import pytest
from msgspec.structs import replace
from tools.audit import one_pack

from lumvak.core.as_found.audit import audited
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_limits import FOUND
from tests.found_packs import drawn

PARTS = load_catalogue()[0]


def test_the_truth_lies_in_the_band_and_less_is_never_better() -> None:
    found = [one_pack(seed) for seed in range(12)]
    assert [it.wrong for it in found] == [()] * 12
    assert sum(it.amps_in for it in found) >= 10 and sum(it.ah_in for it in found) >= 9
    assert sum(it.hidden for it in found) > 60


@pytest.mark.parametrize("seed", range(6))
def test_all_that_was_seen_leaves_a_narrow_band(seed: int) -> None:
    pack = drawn(seed, PARTS)
    audit, bare = audited(pack.whole, PARTS), audited(AsFound(), PARTS)
    assert audit.continuous.powers < 1.2 < bare.continuous.powers
    assert audit.capacity_ah.powers < 0.1


def test_one_strip_makes_forty_amps_seventeen() -> None:
    """0.15 × 7 mm of nickel, whatever the label says."""
    audit = audited(replace(FOUND, width_mm=7.0, promised_a=40.0), PARTS)
    assert audit.set_by.key == "series-joints"
    assert audit.continuous.value == pytest.approx(16.6, abs=0.1)
    assert audit.verdict != "use"
