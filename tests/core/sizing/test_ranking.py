"""What counts against a pack: never less than nothing, seen, changed, and turned round."""

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.sizing.ranking import (
    HOURS_A_CELL,
    HOURS_A_GROUP,
    HOURS_A_PACK,
    MEASURES,
    SHARED_WEIGHTS,
    WEIGHTS,
    score_of,
    weight_for_first,
    weights_of,
)
from tests.length import so_many
from tests.needs import random_need

SEEDS = st.integers(0, 10**6)


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=SEEDS)
def test_nothing_counts_in_favour_and_the_sum_is_the_order(catalogue: Catalogue, seed: int) -> None:
    project = random_need(seed)
    options = evaluate(project, catalogue).sized.options
    assert list(options.measures) == list(MEASURES)
    for column in options.measures.values():
        assert column.shape == (len(options),)
        assert (column >= 0.0).all() and np.isfinite(column).all()
    weights = weights_of(project.pack, project.need.kind)
    score = score_of(options.measures, weights) if len(options) else np.zeros(0)
    assert score == pytest.approx(options.score)
    # The one that leads may have been brought forward, for what stood before it is stopped.
    rest = options.score[1:] if options.stopped else options.score
    assert (np.diff(rest) >= -1e-12).all()


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=SEEDS, data=st.data())
def test_the_weight_that_is_said_to_put_one_first_does(
    catalogue: Catalogue, seed: int, data: st.DataObject
) -> None:
    project = random_need(seed)
    options = evaluate(project, catalogue).sized.options
    assume(len(options) > 1)
    place = data.draw(st.integers(0, len(options) - 1))
    weights = weights_of(project.pack, project.need.kind)
    found = weight_for_first(options.measures, weights, place)
    for name, weight in found.items():
        assert weight >= -1e-12
        score = score_of(options.measures, {**weights, name: weight})
        assert score[place] <= score.min() + 1e-9 * max(1.0, abs(score.min()))
    best = int(np.argmin(options.score))
    assert weight_for_first(options.measures, weights, best) == pytest.approx(weights)


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=SEEDS)
def test_warmth_counts_from_half_of_what_is_allowed(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(random_need(seed), catalogue)
    options = evaluation.sized.options
    allowed = (
        evaluation.sized.sized_pack.terms.temperature_limit_c
        - evaluation.sized.sized_pack.terms.ambient_c
    )
    # What counts is counted at the count that weighs.
    more = options.weighs / options.parallel
    rise = (options.warmest_c - evaluation.sized.sized_pack.terms.ambient_c) / more**2
    counted = options.measures["warmth"]
    cool = rise <= 0.5 * allowed
    assert (counted[cool] == 0.0).all()
    assert counted[~cool] == pytest.approx(2.0 * rise[~cool] / allowed - 1.0)
    wanted = evaluation.sized.sized_pack.demand.endurance
    assert wanted is not None
    gives = options.runtime_h * more / wanted.number
    assert options.measures["surplus"] == pytest.approx(np.log2(np.maximum(gives, 1.0)), abs=1e-9)
    hours = (
        HOURS_A_CELL * options.series * options.weighs
        + HOURS_A_GROUP * options.series
        + HOURS_A_PACK
    )
    if len(options):
        assert options.measures["work"] == pytest.approx(np.log2(hours / hours.min()))


def test_cells_on_hand_come_first(catalogue: Catalogue, barrow: Project) -> None:
    plain = with_values(
        barrow,
        {
            "pack.cell": None,
            "pack.series": None,
            "pack.parallel": None,
            "arrangement.room.kind": "none",
        },
    )
    first = evaluate(plain, catalogue).sized.choice.cell.id
    other = "ostrel-18-34"
    assert first != other
    held = with_values(plain, {"pack.drawer": ({"cell": other, "count": 400},)})
    assert evaluate(held, catalogue).sized.choice.cell.id == other
    few = with_values(plain, {"pack.drawer": ({"cell": other, "count": 4},)})
    assert evaluate(few, catalogue).sized.choice.cell.id == first


def test_weights_are_the_builders_and_explained(catalogue: Catalogue, barrow: Project) -> None:
    plain = with_values(
        barrow,
        {
            "pack.cell": None,
            "pack.series": None,
            "pack.parallel": None,
            "arrangement.room.kind": "none",
        },
    )
    evaluation = evaluate(plain, catalogue)
    total = evaluation.figures["pack.score"]
    assert total.number == pytest.approx(float(evaluation.sized.options.score[0]))
    assert total.number == pytest.approx(sum(part.number for part in total.inputs))
    values = [part.number for part in total.inputs]
    assert values == sorted(values, reverse=True)
    assert evaluation.figures["pack.weights.mass"].origin == "default"
    own = with_values(plain, {"pack.weights.mass": 4.0})
    heavy = evaluate(own, catalogue)
    assert heavy.figures["pack.weights.mass"].origin == "typed"
    assert heavy.sized.options.mass_kg[0] <= evaluation.sized.options.mass_kg[0]
    with pytest.raises(ProjectError, match="Mass counts"):
        with_values(plain, {"pack.weights.mass": -1.0})
    # A pack that is none of the options has no place among them to explain.
    odd = evaluate(with_values(barrow, {"pack.parallel": 2}), catalogue)
    assert odd.sized.choice.index is None
    assert "pack.score" not in odd.figures


def test_every_kind_has_every_weight() -> None:
    for usual in WEIGHTS.values():
        assert {*usual, *SHARED_WEIGHTS} == set(MEASURES)
    # What is carried in the hand is weighed most.
    assert max(WEIGHTS, key=lambda kind: WEIGHTS[kind]["mass"]) == "tool"
