"""Why groups never even out."""

import re

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.balancing import balancing_now, balancing_of
from lumvak.core.balancing.groups_run import Bleed
from lumvak.core.balancing.means import Means, means_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.charging import Charging, Module
from lumvak.core.spelling import spoken
from tests.core.balancing.test_balancing import now_of, use_of


def test_a_leak_between_charges_beats_a_bleed_that_is_held_for_too_short(
    catalogue: Catalogue,
) -> None:
    """By hand: 3 days at 5 mA lose 0.36 Ah; the tail of a charge bleeds 60 mA for an hour."""
    setting, now = now_of(catalogue, [0.5] * 4)
    leak = np.array([0.0, 0.0, 0.005, 0.0])
    groups = replace(now.groups, leak_a=leak)
    means = Means(Bleed(4.18, amps=0.06, spread_v=0.005), None, "the bleed")
    use = use_of(setting, 4, between_h=72.0, floor_v=3.3)
    found = balancing_of(means, groups, now.share, use, 4.2)
    assert found.hours is None and found.days is None
    assert "group 3 falls behind" in spoken(found.because)
    held = balancing_of(means, groups, now.share, replace(use, stays_h=12.0), 4.2)
    assert held.hours is not None


def test_a_group_that_runs_empty_between_charges_is_a_stop(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.5] * 4)
    groups = replace(now.groups, leak_a=np.array([0.0, 0.1, 0.0, 0.0]))
    means = Means(Bleed(4.18, amps=0.06, spread_v=0.005), None, "the bleed")
    found = balancing_of(means, groups, now.share, use_of(setting, 4, between_h=240.0), 4.2)
    assert found.stop and "group 2" in spoken(found.because)


def test_groups_bled_alike_stay_apart_and_what_is_burnt_is_told(catalogue: Catalogue) -> None:
    """5 % low: at 4.2 V it stands over 4.1 V, where all are bled."""
    setting, now = now_of(catalogue, [0.5, 0.5, 0.45, 0.5])
    means = Means(Bleed(4.1, amps=0.06), None, "the bleed")
    found = balancing_of(means, now.groups, now.share, use_of(setting, 4, stays_h=20.0), 4.2)
    assert found.hours is None and "bled alike" in spoken(found.because)
    assert found.left_share == pytest.approx(0.05, abs=0.005)
    # Twenty hours and the tail of the charge, four groups at some 4.2 V.
    told = re.search(r"([\d.]+) Wh are burnt in each charge", spoken(found.because))
    assert told and float(told[1]) == pytest.approx(4 * 4.2 * 0.06 * 21.0, rel=0.1)


def test_a_resistor_over_its_rating_is_a_stop(catalogue: Catalogue) -> None:
    _, now = now_of(catalogue, [0.5, 0.47])
    hot = Charging(by="module", module=Module(ohm=0.5, watt=0.25))
    found = balancing_now(means_of(hot, None, 4.2, None), now, None, 4.2)
    assert found.stop and found.hours is None
    assert "it burns" in spoken(found.because)
