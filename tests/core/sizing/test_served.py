"""The counts that weigh in the ranking, and what is folded away."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.sizing.served import EVEN, crossing_of, even_count, stirred_by
from lumvak.core.spelling import spoken
from tests.length import so_many
from tests.needs import builders_need


@given(st.floats(0.05, 40.0))
def test_the_count_that_weighs_is_the_mean_of_those_for_needs_around(need: float) -> None:
    least = max(1.0, np.ceil(need))
    # A need that does not hang on the count is the same at one less.
    given_need = np.array([need])
    found = float(even_count(crossing_of(np.array([least]), given_need, given_need))[0])
    tried = np.linspace((1.0 - EVEN) * min(need, least), (1.0 + EVEN) * min(need, least), 20_001)
    assert found == pytest.approx(float(np.ceil(tried).mean()), abs=2e-3)


@given(st.floats(0.05, 40.0))
def test_a_hundredth_more_hardly_moves_it(need: float) -> None:
    counts = []
    for asked in (need, 1.01 * need):
        least = np.array([max(1.0, np.ceil(asked))])
        crossing = crossing_of(least, np.array([asked]), np.array([asked]))
        counts.append(float(even_count(crossing)[0]))
    assert counts[0] - 1e-9 <= counts[1] <= counts[0] * 1.01 + 0.5 / EVEN * 0.011


@given(st.floats(0.05, 40.0), st.floats(-0.029, 0.029))
def test_no_need_near_by_moves_it_more_than_is_said(need: float, away: float) -> None:
    at, near = np.array([need]), np.array([need * (1.0 + away)])
    moved = abs(float(even_count(near)[0] - even_count(at)[0]))
    assert moved <= float(stirred_by(at)[0]) + 1e-9


def test_packs_of_many_small_cells_are_folded_away_with_their_reason(catalogue: Catalogue) -> None:
    drill = {
        "need.kind": "tool",
        "need.rated_voltage_v": 18.0,
        "need.current_a": 15.0,
        "need.endurance_basis": "capacity",
        "need.capacity_ah": 4.0,
    }
    options = evaluate(with_values(Project(), drill), catalogue).sized.options
    counts = options.series * options.parallel
    families = [catalogue.chemistry_of(options.cell(at)).family for at in range(len(options))]
    for family in set(families):
        own = [int(counts[at]) for at in range(len(options)) if families[at] == family]
        # Up to two more in parallel than the least are listed of each.
        assert min(own) * 2 + 2 * options.series.max() >= max(own)
    folded = [item for item in options.refused if "give as much" in spoken(item.reason)]
    assert "kimbry-18-22c" in {item.cell for item in folded}
    assert any("10 of Ostrel 21-40 P, 5S2P, give as much" in spoken(item.reason) for item in folded)
    # One that is asked for by name stays.
    named = evaluate(with_values(Project(), {**drill, "pack.cell": "kimbry-18-22c"}), catalogue)
    assert named.sized.options.find("kimbry-18-22c", 5, None) is not None


def test_what_is_folded_away_names_a_pack_that_is_offered(catalogue: Catalogue) -> None:
    """Within the builder's limits too: what is past them stands in for nothing."""
    ids = {cell.name: cell.id for cell in catalogue.cell_list}
    told = 0
    for seed in range(so_many(4, 12)):
        project = builders_need(seed)
        free = evaluate(project, catalogue).sized.options
        for cost in (None, float(np.median(free.cost)), 1.02 * float(free.cost.min())):
            options = evaluate(
                with_values(project, {"pack.most_cost": cost}), catalogue
            ).sized.options
            assert len(options)
            for item in options.refused:
                if "give as much" in spoken(item.reason):
                    _, _, other = spoken(item.reason).partition(" of ")
                    name, pack, _ = other.split(", ")
                    series, parallel = map(int, pack.rstrip("P").split("S"))
                    assert options.find(ids[name], series, parallel) is not None
                    told += 1
    assert told > 10


def test_reclaimed_cells_are_offered_only_where_they_are_asked_for(catalogue: Catalogue) -> None:
    need = {"need.current_a": 10.0, "need.runtime_h": 2.0}

    def origins(**pack: object) -> set[str]:
        project = with_values(Project(), {**need, **{f"pack.{key}": pack[key] for key in pack}})
        options = evaluate(project, catalogue).sized.options
        return {options.cell(at).origin for at in range(len(options))}

    assert origins() == {"new"}
    assert origins(origin="any") == {"new", "reclaimed"}
    assert origins(origin="reclaimed") == {"reclaimed"}
    assert origins(cell="marrow-18-26r") == {"new", "reclaimed"}
    assert origins(drawer=({"cell": "marrow-18-26r", "count": 400},)) == {"new", "reclaimed"}
