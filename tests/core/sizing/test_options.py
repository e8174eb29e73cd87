"""Options: which kinds are tried whole, and how one is brought to the front."""

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.sizing.options import keeping, led_by, worth_trying
from tests.length import so_many
from tests.narrow_strips import NARROW_STRIPS
from tests.needs import builders_need, random_need

SEEDS = st.integers(0, 10**6)
# Needs of which the first by rank alone is stopped, and another is not.
LED = (11, 25)


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=SEEDS, data=st.data())
def test_bringing_one_forward_leaves_the_others_in_their_order(
    catalogue: Catalogue, seed: int, data: st.DataObject
) -> None:
    options = evaluate(random_need(seed), catalogue).sized.options
    assume(len(options) > 0)
    lead = data.draw(st.integers(0, len(options) - 1))
    led = led_by(options, lead, ((lead, ("no-board",)),))
    packs = [
        [
            (int(row), float(series), float(parallel), binding)
            for row, series, parallel, binding in zip(
                item.rows, item.series, item.parallel, item.binding, strict=True
            )
        ]
        for item in (options, led)
    ]
    assert packs[1] == [packs[0][lead], *packs[0][:lead], *packs[0][lead + 1 :]]
    assert led.stopped == {0: ("no-board",)}
    assert led.mass_kg[0] == options.mass_kg[lead]
    for name, column in options.measures.items():
        assert led.measures[name][0] == column[lead]
        assert sorted(led.measures[name]) == sorted(column)
    assert np.array_equal(led.needs["sag"][1 : lead + 1], options.needs["sag"][:lead])


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=SEEDS)
def test_one_of_each_kind_is_tried_the_best_first(catalogue: Catalogue, seed: int) -> None:
    project = random_need(seed)
    evaluation = evaluate(project, catalogue)
    options = evaluation.sized.options
    tried = worth_trying(options, project.pack, evaluation.sized.parts, 24)
    assert len(tried) == len(set(tried)) == min(24, len(options))
    kinds = [
        (
            evaluation.sized.parts.chemistry_of(options.cell(place)).family,
            options.series[place],
            options.cell(place).format,
        )
        for place in tried
    ]
    firsts = [at for at, kind in enumerate(kinds) if kind not in kinds[:at]]
    # One of every kind before a second of any, and each time the best that is left.
    assert firsts == list(range(len(firsts)))
    assert list(tried[: len(firsts)]) == sorted(tried[: len(firsts)])
    assert list(tried[len(firsts) :]) == sorted(tried[len(firsts) :])


@settings(max_examples=so_many(8, 12), deadline=None)
@given(seed=SEEDS)
def test_the_first_is_stopped_only_where_all_are(catalogue: Catalogue, seed: int) -> None:
    project = random_need(seed)
    evaluation = evaluate(project, catalogue)
    if not stops_of(evaluation) or len(evaluation.sized.options) > 40:
        return
    for place in range(len(evaluation.sized.options)):
        picked = {
            "pack.cell": evaluation.sized.options.cell(place).id,
            "pack.series": int(evaluation.sized.options.series[place]),
            "pack.parallel": int(evaluation.sized.options.parallel[place]),
        }
        other = evaluate(with_values(project, picked), catalogue, found=evaluation.sized.options)
        assert stops_of(other)


@pytest.mark.parametrize("seed", LED)
def test_what_is_stopped_says_so_and_does_not_lead(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(with_values(random_need(seed), NARROW_STRIPS), catalogue)
    assert not stops_of(evaluation)
    assert evaluation.sized.choice.index == 0
    assert evaluation.sized.options.stopped
    assert 0 not in evaluation.sized.options.stopped
    assert evaluation.sized.options.score[0] > evaluation.sized.options.score.min()
    for codes in evaluation.sized.options.stopped.values():
        assert codes


def test_picks_of_the_builder_are_not_changed(catalogue: Catalogue) -> None:
    project = with_values(random_need(LED[0]), NARROW_STRIPS)
    evaluation = evaluate(project, catalogue)
    place = next(iter(evaluation.sized.options.stopped))
    picked = with_values(
        project,
        {
            "pack.cell": evaluation.sized.options.cell(place).id,
            "pack.series": int(evaluation.sized.options.series[place]),
            "pack.parallel": int(evaluation.sized.options.parallel[place]),
        },
    )
    own = evaluate(picked, catalogue)
    assert own.sized.choice.cell.id == evaluation.sized.options.cell(place).id
    assert stops_of(own)
    assert not own.sized.options.stopped


def test_what_was_proposed_stays_among_its_equals(catalogue: Catalogue) -> None:
    kept = changed = 0
    for seed in range(so_many(5, 40)):
        project = builders_need(seed)
        evaluation = evaluate(project, catalogue)
        options = evaluation.sized.options
        assert options.alike[0]
        equals = {
            (options.cell(at).id, int(options.series[at]))
            for at in np.flatnonzero(options.alike).tolist()
        }
        for place in range(min(len(options), 12)):
            had = options.cell(place).id, int(options.series[place])
            after = evaluate(project, catalogue, had=had)
            if had in equals:
                assert (after.sized.choice.cell.id, after.sized.choice.series) == had
                kept += place > 0
            else:
                assert after.sized.choice == evaluation.sized.choice
                changed += 1
    assert kept > 0
    assert changed > 5


def test_nothing_before_and_no_option_change_nothing(catalogue: Catalogue) -> None:
    options = evaluate(builders_need(1), catalogue).sized.options
    assert keeping(options, None) is options
    assert keeping(options, ("nobody", 3)) is options
