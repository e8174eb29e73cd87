"""The windows of connectors and switches, held against the verdicts."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.contacts import connector_spec, switch_spec
from tests.length import so_many
from tests.needs import builders_need
from tests.specified import against, missed, picked, pinned, random_part


def test_the_figures_of_the_barrow_by_hand(evaluation: Evaluation) -> None:
    spec = connector_spec(evaluation)
    assert spec.of("continuous_a").bounds[0] == pytest.approx(22.0)
    assert spec.of("short_a").bounds[0] == 46.0 and spec.of("short_a").at_s == 6.0
    # 3 W in the contacts.
    assert spec.of("mated_mohm").bounds[1] == pytest.approx(3.0 / 22.0**2 * 1e3)
    assert not switch_spec(evaluation).needed


@settings(max_examples=so_many(10, 100), deadline=None)
@given(seed=st.integers(0, 10**6), kind=st.sampled_from(("connector", "switch")))
def test_a_random_contact_is_called_good_where_nothing_speaks_against_it(
    catalogue: Catalogue, seed: int, kind: str
) -> None:
    project = builders_need(seed % 400)
    project = pinned(project, evaluate(project, catalogue))
    evaluation = evaluate(project, catalogue)
    part = random_part(kind, evaluation, random.Random(seed))
    by_engine = against(evaluate(picked(project, kind, part), catalogue), kind)
    assert bool(by_engine) == bool(missed(kind, part, evaluation)), by_engine
