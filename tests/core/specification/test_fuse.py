"""The windows of a fuse: ratings of a usual band, held against trying every rating."""

import random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import FUSE_FORMS, USUAL_BANDS, Fuse
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.fuses import judge_fuse
from lumvak.core.specification.fuse import (
    charge_fuse_asked,
    fuse_spec,
    main_fuse_asked,
)
from tests.length import so_many
from tests.needs import builders_need
from tests.specified import against, missed, picked, pinned, random_part


def usual(form: str, rating_a: float) -> Fuse:
    band, derate = USUAL_BANDS[form]  # type: ignore[index]
    return Fuse(
        id="usual",
        name="usual",
        form=form,
        rating_a=rating_a,
        voltage_dc_v=1e4,  # type: ignore[arg-type]
        breaking_a=1e6,
        band=band,
        derate_per_k=derate,
        resistance_mohm=1.0,
        price=0.0,
    )


@settings(max_examples=so_many(8, 60), deadline=None)
@given(seed=st.integers(0, 400))
def test_the_window_of_ratings_is_where_trying_them_all_says(
    catalogue: Catalogue, seed: int
) -> None:
    evaluation = evaluate(builders_need(seed), catalogue)
    for asked in (main_fuse_asked(evaluation), charge_fuse_asked(evaluation)):
        for window in fuse_spec(asked).windows:
            if window.name != "rating_a":
                continue
            low, high = window.bounds
            tried = np.geomspace(low / 2.0, min(high, 50.0 * low) * 2.0, 41)
            for rating in tried.tolist():
                if min(abs(rating / low - 1.0), abs(rating / high - 1.0)) < 1e-4:
                    continue
                serves = judge_fuse(usual(window.case, rating), asked.setting).serves
                assert serves == window.takes(rating), (window.case, rating, low, high)


def test_ratings_voltage_and_breaking_by_hand(evaluation: Evaluation) -> None:
    asked = main_fuse_asked(evaluation)
    spec = fuse_spec(asked)
    assert spec.of("voltage_dc_v").bounds[0] == pytest.approx(14 * 4.2)
    assert spec.of("breaking_a").bounds[0] == pytest.approx(1.25 * asked.short.number)
    assert set(spec.of("form").one_of) <= set(FUSE_FORMS)
    # 46 A for 6 s on a blade: it holds 1.35 times for 0.75 s and 1.1 times for 100 hours.
    blade = next(window for window in spec.windows if window.case == "blade")
    assert 46.0 / 1.35 < blade.bounds[0] < 46.0 / 1.1


@settings(max_examples=so_many(10, 100), deadline=None)
@given(seed=st.integers(0, 10**6), kind=st.sampled_from(("fuse", "charge-fuse")))
def test_a_random_fuse_is_called_good_where_nothing_speaks_against_it(
    catalogue: Catalogue, seed: int, kind: str
) -> None:
    project = builders_need(seed % 400)
    project = pinned(project, evaluate(project, catalogue))
    evaluation = evaluate(project, catalogue)
    part = random_part(kind, evaluation, random.Random(seed))
    by_engine = against(evaluate(picked(project, kind, part), catalogue), kind)
    by_windows = missed(kind, part, evaluation)
    assert bool(by_engine) == bool(by_windows), (by_engine, by_windows)


def test_its_holder_is_rated_no_lower_than_the_least_that_does(
    catalogue: Catalogue,
) -> None:
    asked = main_fuse_asked(evaluate(builders_need(3), catalogue))
    spec = fuse_spec(asked)
    least = [it.least.number for it in spec.windows if it.case and not it.empty and it.least]
    holder = spec.of("holder_a")
    assert holder.least is not None and not holder.must
    assert holder.least.number >= min(least) >= asked.load.number
    assert holder.least.number == pytest.approx(round(holder.least.number, 1), abs=1e-9)
