"""Steps worked out together are the steps worked out one by one."""

import random

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.run.blocks import block
from lumvak.core.run.model import Loads, Model, ModelledPack, States


def pack_of(catalogue: Catalogue, draw: random.Random) -> ModelledPack:
    cell = draw.choice(list(catalogue.cells.values()))
    series, parallel = draw.randint(2, 16), draw.randint(1, 9)
    return ModelledPack(
        cell,
        behaviour_of(cell, catalogue.chemistry_of(cell)),
        series,
        parallel,
        parallel * cell.capacity_typical_ah,
        0.02,
        0.004,
        series * 2.2,
        draw.uniform(-5.0, 35.0),
        60.0,
        1.5,
        900.0,
    )


def stepwise(model: Model, at: States, loads: Loads, seconds: np.ndarray) -> list[States]:
    """Each step by itself, with rounds until nothing moves."""
    ends = []
    for place in range(len(seconds)):
        one = slice(place, place + 1)
        at, _ = model.stepped(at, loads.part(one), model.spans(seconds[one]), 40)
        ends.append(at)
    return ends


@pytest.mark.parametrize("seed", range(12))
def test_they_follow_the_model_step_by_step(seed: int, catalogue: Catalogue) -> None:
    draw = random.Random(seed)
    pack = pack_of(catalogue, draw)
    model, count = Model(pack), 60
    # Amps, watts, and steps of both in one duty; short steps and long ones.
    amps = np.array([draw.uniform(0.0, 0.9) * pack.capacity_ah for _ in range(count)])
    watts = amps * pack.series * 3.0
    watts[::2] = np.nan if seed % 3 == 1 else watts[::2]
    loads = Loads(amps, None if seed % 3 == 0 else watts)
    seconds = np.array([draw.choice([0.5, 4.0, 40.0]) for _ in range(count)])
    first = model.start(0.95)
    done = block(model, first, loads, model.spans(seconds))
    alone = stepwise(model, first, loads, seconds)
    # What runs far past empty or gets red hot need not settle.
    sound = int(np.argmax(np.append([at.charge[0] < 0.0 for at in alone], True)))
    assert done.settled >= min(sound, count) // 2
    for name in ("charge", "slow_v", "lag", "celsius"):
        one_by_one = np.array([getattr(at, name)[0] for at in alone])[: done.settled]
        assert getattr(done.ends, name)[: done.settled] == pytest.approx(
            one_by_one, rel=1e-6, abs=1e-7
        )


def test_states_that_fade_within_a_step_are_followed_too(catalogue: Catalogue) -> None:
    # Of the slow branch nothing measurable is left after such a step; a product would be nought.
    model = Model(pack_of(catalogue, random.Random(1)))
    amps = np.array([0.1, 0.3, 0.2, 0.0] * 30)
    seconds = np.where(np.arange(120) % 2, 900.0, 60.0)
    first = model.start(1.0)
    done = block(model, first, Loads(amps, None), model.spans(seconds))
    alone = stepwise(model, first, Loads(amps, None), seconds)
    assert done.ends.slow_v == pytest.approx([at.slow_v[0] for at in alone], abs=1e-7)


def test_what_is_not_settled_is_not_taken(catalogue: Catalogue) -> None:
    # Far more power than there is: the rounds need not agree beyond the first steps.
    model = Model(pack_of(catalogue, random.Random(3)))
    loads = Loads(np.zeros(200), np.full(200, 1e5))
    done = block(model, model.start(0.3), loads, model.spans(np.full(200, 30.0)))
    assert 1 <= done.settled <= 200
    assert np.isnan(model.seen_at(done.ends.part(slice(0, 1)), loads.part(slice(0, 1)))[0][0])
