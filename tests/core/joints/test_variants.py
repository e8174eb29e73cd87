"""Other ways to take the current off, what is broken, and where it is hottest."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.variants import (
    SAME,
    Broken,
    as_it_is,
    hot_spots,
    nearest_lead,
    take_off_places,
    what_if,
)

DEMOS = ["barrow", "trimmer", "kayak", "cycle"]


@pytest.mark.parametrize("demo", DEMOS)
def test_every_way_gives_the_whole_current(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    joined_pack = evaluate(demos[demo], catalogue).laid_out.joined_pack
    places = take_off_places(joined_pack)
    assert places
    assert sum(item.proposed for item in places) == 1
    least = min(item.variant.excess for item in places)
    for item in places:
        flow, layout = item.variant.flow, joined_pack.layout
        by_group = flow.cell_a.reshape(layout.series, layout.parallel).sum(axis=1)
        assert by_group == pytest.approx(np.full(layout.series, joined_pack.current_a), rel=1e-6)
        assert item.variant.times_fair >= 1.0 - 1e-9
        assert item.variant.loss_w > 0.0
        if item.proposed:
            assert item.variant.excess == pytest.approx(least, abs=SAME)


def test_a_lead_at_every_end_cell_is_the_fairest(evaluation: Evaluation) -> None:
    by_name = {
        item.variant.name: item.variant for item in take_off_places(evaluation.laid_out.joined_pack)
    }
    every = by_name["a lead at every end cell"]
    assert every.excess == min(item.excess for item in by_name.values())
    assert len(every.leads) == 2 * evaluation.laid_out.joined_pack.layout.parallel


def test_nothing_broken_is_as_it_is_and_a_lost_cell_loads_the_others(
    evaluation: Evaluation,
) -> None:
    joined_pack = evaluation.laid_out.joined_pack
    whole = as_it_is(joined_pack)
    assert whole is not None
    same = what_if(joined_pack, Broken())
    assert same is not None
    assert same.flow.cell_a == pytest.approx(whole.flow.cell_a)
    lost = what_if(joined_pack, Broken(cells=frozenset({0})))
    assert lost is not None
    assert lost.flow.cell_a[0] == pytest.approx(0.0)
    others = slice(1, joined_pack.layout.parallel)
    assert np.all(lost.flow.cell_a[others] > whole.flow.cell_a[others])
    assert lost.flow.cell_a[others].sum() == pytest.approx(joined_pack.current_a, rel=1e-6)
    # A whole group gone: no current passes any more.
    group = frozenset(range(joined_pack.layout.parallel))
    assert what_if(joined_pack, Broken(cells=group)) is None


def test_a_broken_piece_carries_nothing(evaluation: Evaluation) -> None:
    piece = hot_spots(evaluation.laid_out.joined_pack)[0]
    broken = what_if(evaluation.laid_out.joined_pack, Broken(pieces=frozenset({piece})))
    assert broken is not None
    assert broken.flow.piece_a[piece] == 0.0
    assert broken.flow.piece_w[piece] == 0.0
    whole = as_it_is(evaluation.laid_out.joined_pack)
    assert whole is not None
    assert broken.busiest_piece_a >= whole.busiest_piece_a - 1e-9


@pytest.mark.parametrize("demo", DEMOS)
def test_hot_spots_come_the_first_at_its_limit_first(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    joined_pack = evaluate(demos[demo], catalogue).laid_out.joined_pack
    assert joined_pack.carried is not None
    limits = joined_pack.carried.pack_limit_a[hot_spots(joined_pack, 5)]
    assert np.all(np.diff(limits) >= 0.0)
    assert limits[0] == joined_pack.carried.pack_limit_a.min()


def test_a_lead_is_put_down_at_the_nearest_end_cell(evaluation: Evaluation) -> None:
    layout = evaluation.laid_out.joined_pack.layout
    for pole, bit, first in (("-", 1, 0), ("+", 0, (layout.series - 1) * layout.parallel)):
        for cell in (first, first + layout.parallel - 1):
            x, y, _ = layout.terminal_mm[2 * cell + bit]
            lead = nearest_lead(evaluation.laid_out.joined_pack, pole, float(x), float(y))
            assert (lead.pole, lead.terminal, lead.toward) == (pole, 2 * cell + bit, None)
