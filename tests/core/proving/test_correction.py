"""Parameters moved by readings: closed forms, and the truth in the bands as often as they say."""

import numpy as np
import pytest

from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.correction import (
    NINETY,
    PARAMETERS,
    TELLING,
    Prior,
    continuous_a,
    corrected,
    in_units,
    packs_of,
    parameters_of,
    posterior,
    shown_by,
)
from lumvak.core.proving.expected import drawn_packs
from lumvak.core.proving.measured import Measured
from lumvak.core.proving.proof import Prepared
from tests.length import so_many


@pytest.fixture(scope="module")
def prior(ready: Prepared) -> Prior:
    return ready.prior


def test_without_readings_nothing_moves(bench_pack: BenchPack, prior: Prior) -> None:
    found = posterior(bench_pack, prior, {})
    assert np.array_equal(found.after, found.before) and found.used == ()
    assert found.hours_after == found.hours_before


def test_one_reading_weighs_with_the_prior_as_two_normals_do(
    bench_pack: BenchPack, prior: Prior
) -> None:
    """The path alone, its reading as uncertain as the prior: halfway, and 1/√2 of the spread."""
    design = 1e3 * float(bench_pack.parts_ohm.sum())
    at = PARAMETERS.index("path")
    before = design * float(np.exp(prior.mean[at]))
    sigma = before * float(np.sqrt(prior.spread[at, at]))
    found = posterior(bench_pack, prior, {"staircase.path_mohm": Measured(before + sigma, sigma)})
    item = corrected(bench_pack, found)[at]
    assert item.after == pytest.approx(before + 0.5 * sigma, rel=0.01)
    assert item.sigma_after / item.sigma_before == pytest.approx(0.5**0.5, rel=0.06)


def test_packs_have_the_parameters_that_they_were_made_of(
    bench_pack: BenchPack, prior: Prior
) -> None:
    wanted = prior.mean + np.array([0.02, -0.1, 0.1, 0.05, -0.2, 0.3, 0.1])
    again = parameters_of(bench_pack, packs_of(bench_pack, wanted[None, :]))[0]
    assert again == pytest.approx(wanted, abs=1e-5)
    assert in_units(bench_pack, np.zeros(7))["capacity"] == pytest.approx(bench_pack.group_ah)


def test_the_truth_lies_in_the_band_of_nine_in_ten(bench_pack: BenchPack, prior: Prior) -> None:
    many = so_many(20, 200)
    others = drawn_packs(bench_pack, many, seed=5)
    truth, shown = parameters_of(bench_pack, others.packs), shown_by(others)
    noise = np.random.default_rng(9)
    offs = {key: 0.5 if key.endswith("_k") else 0.002 * float(shown[key].mean()) for key in TELLING}
    inside, hours, shares = np.zeros(len(PARAMETERS)), 0, []
    for place in range(many):
        read = {
            key: Measured(float(shown[key][place] + off * noise.standard_normal()), off)
            for key, off in offs.items()
        }
        found = posterior(bench_pack, prior, read)
        sigma = np.sqrt(np.diag(found.spread_after))
        inside += np.abs(found.after - truth[place]) <= NINETY * sigma
        now, was = found.hours_after, found.hours_before
        hours += now.low <= others.hours[place] <= now.high
        shares.append((now.high - now.low) / (was.high - was.low))
    # Nine in ten are expected; four standard deviations fewer would not be.
    least = 0.9 * many - 4.0 * (0.09 * many) ** 0.5
    assert (inside >= least).all() and hours >= least
    assert np.median(shares) < 1.0 / 3.0


def test_a_rating_goes_with_the_root_of_a_rise(bench_pack: BenchPack) -> None:
    limits = {"series-joints": 20.0, "cells": 40.0, "leads": 30.0}
    at = np.zeros(7)
    at[PARAMETERS.index("strip")] = np.log(4.0)
    spread = np.zeros((7, 7))
    found = continuous_a(limits, at, spread)
    assert found.value == found.low == pytest.approx(10.0)
    spread[5, 5] = 0.04
    assert continuous_a(limits, at, spread).low < 10.0
