"""The steps taken together are the steps taken one by one."""

import math
import random

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.run.model import Model, ModelledPack, Step
from lumvak.core.run.whole_steps import pieces_of, whole_steps


def pack_of(catalogue: Catalogue, draw: random.Random) -> ModelledPack:
    cell = draw.choice(list(catalogue.cells.values()))
    series, parallel = draw.randint(2, 16), draw.randint(1, 9)
    return ModelledPack(
        cell, catalogue.chemistry_of(cell), series, parallel, parallel * 2.5, 0.02, 0.004,
        series * 2.2, draw.uniform(-5.0, 35.0), 60.0, 1.5, 900.0,
    )  # fmt: skip


@pytest.mark.parametrize("seed", range(12))
def test_they_follow_the_model_step_by_step(seed: int, catalogue: Catalogue) -> None:
    draw = random.Random(seed)
    model = Model(pack_of(catalogue, draw))
    watts = draw.random() < 0.5
    duty = [
        Step(None if watts else draw.uniform(0.0, 5.0), draw.uniform(1.0, 60.0) if watts else None,
             draw.uniform(3.0, 90.0))
        for _ in range(3)
    ]  # fmt: skip
    start = model.start(0.9)
    course = [(0.0, 0.0, 0.0, 0.9, model.pack.ambient_c)]
    state, place, done = whole_steps(model, start, duty, 0, 0, 7.0, 900.0, course)
    alone, now, taken = start, 0.0, 0
    for at in range(place + 1):
        step = duty[at % 3]
        pieces, size = pieces_of(step, 7.0)
        for _ in range(pieces if at < place else done):
            alone, held = model.midway(alone, step, size)
            assert not math.isnan(held)
            now, taken = now + size, taken + 1
    assert taken == len(course) - 1
    assert course[-1][0] == pytest.approx(now, rel=1e-12)
    for name in ("charge", "slow_v", "celsius", "emf_j", "delivered_j", "cell_loss_j"):
        assert getattr(state, name) == pytest.approx(getattr(alone, name), rel=1e-9, abs=1e-12)


def test_a_step_is_cut_into_equal_pieces_no_longer_than_asked() -> None:
    assert pieces_of(Step(1.0, None, 60.0), 7.0) == (9, pytest.approx(60.0 / 9))
    assert pieces_of(Step(1.0, None, 60.0), 60.0) == (1, 60.0)
    assert pieces_of(Step(1.0, None, 0.5), 7.0) == (1, 0.5)
