"""The field, its edge, the limits, packs side by side, and why not this one."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.comparison.all_packs import AXES, field_of, undominated
from lumvak.core.comparison.side_by_side import MEASURES, side_by_side
from lumvak.core.comparison.why_not import typical_row, why_not
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.sizing.counts import smallest_parallel
from lumvak.core.spelling import spoken
from tests.length import so_many


def in_hand(evaluation: Evaluation) -> tuple[str, int, int]:
    return (
        evaluation.sized.choice.cell.id,
        evaluation.sized.choice.series,
        evaluation.sized.choice.parallel,
    )


def test_the_field_is_the_search_without_ranking(evaluation: Evaluation) -> None:
    sized_pack = evaluation.sized.sized_pack
    field = field_of(sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack)
    assert len(field) > 3500
    by_pair: dict[tuple[int, int], float] = {}
    for place in np.flatnonzero(field.serves):
        pair = int(field.rows[place]), int(field.series[place])
        by_pair[pair] = min(by_pair.get(pair, np.inf), field.parallel[place])
    rows = np.array([row for row, _ in by_pair])
    series = np.array([float(count) for _, count in by_pair])
    least = smallest_parallel(sized_pack.table, rows, series, sized_pack.terms)
    assert least.tolist() == list(by_pair.values())
    reach = field.within_reach()
    for place in reach:
        pair = int(field.rows[place]), int(field.series[place])
        assert by_pair[pair] <= field.parallel[place] <= 1.5 * by_pair[pair]
    # The measures are those of the options.
    options = evaluation.sized.options
    columns = {
        "mass": options.mass_kg,
        "cost": options.cost,
        "volume": options.volume_l,
        "runtime": options.runtime_h,
        "headroom": options.headroom,
        "temperature": options.warmest_c,
    }
    assert set(columns) == set(AXES)
    place = int(
        np.flatnonzero(
            (field.rows == options.rows[3])
            & (field.series == options.series[3])
            & (field.parallel == options.parallel[3])
        )[0]
    )
    for name, column in columns.items():
        assert field.measures[name][place] == pytest.approx(column[3])


@given(
    st.lists(st.tuples(st.integers(0, 6), st.integers(0, 6)), max_size=25),
    st.booleans(),
    st.booleans(),
)
def test_nothing_beats_an_undominated_pack(
    points: list[tuple[int, int]], first: bool, second: bool
) -> None:
    x, y = (np.array([point[axis] for point in points], dtype=float) for axis in (0, 1))
    sign = np.array([1.0 if first else -1.0, 1.0 if second else -1.0])
    flags = undominated(x, y, (first, second))
    good = np.stack([x, y], axis=-1) * sign if points else np.zeros((0, 2))
    for place in range(len(points)):
        beaten = any(np.all(other >= good[place]) and np.any(other > good[place]) for other in good)
        assert flags[place] == (not beaten)


def test_all_say_the_same_of_a_pack_that_gives_up_too_much_charge(
    barrow: Project, catalogue: Catalogue
) -> None:
    """Chart, columns and the question why not refuse what the search refuses, and nothing else."""
    stopped = with_values(barrow, {"need.stop_voltage_v": 44.5, "need.peak_current_a": None})
    stopped = with_values(
        stopped,
        {
            "pack.cell": None,
            "pack.series": None,
            "pack.parallel": None,
            "arrangement.room.kind": "none",
        },
    )
    sized_pack = evaluate(stopped, catalogue).sized.sized_pack
    field = field_of(sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack, 24)
    each = range(0, len(field), so_many(21, 7))
    packs = [
        (
            sized_pack.table.cells[int(field.rows[at])].id,
            int(field.series[at]),
            int(field.parallel[at]),
        )
        for at in each
    ]
    sides = side_by_side(sized_pack, stopped.need, packs)
    short = 0
    for at, pack, side in zip(each, packs, sides, strict=False):
        answer = why_not(sized_pack, int(field.rows[at]), pack[1], pack[2])
        assert field.serves[at] == side.serves == (not answer.failed), (pack, answer.text)
        assert ("fails on usable charge" in spoken(side.subtitle)) == (answer.failed == "usable")
        short += answer.failed == "usable"
    assert short > so_many(1, 5)
    assert any(side.serves for side in sides)


def test_limits_refuse_with_their_reason(barrow: Project, catalogue: Catalogue) -> None:
    def options(**limits: object) -> Evaluation:
        return evaluate(with_values(barrow, {f"pack.{k}": v for k, v in limits.items()}), catalogue)

    free = options()
    light = options(most_mass_kg=7.0)
    assert 0 < len(light.sized.options) < len(free.sized.options)
    assert light.sized.options.mass_kg.max() <= 7.0
    assert any("7 kg at most" in spoken(item.reason) for item in light.sized.options.refused)
    cheap = options(most_cost=420.0)
    assert cheap.sized.options.cost.max() <= 420.0
    used = options(origin="reclaimed")
    assert {used.sized.options.cell(at).origin for at in range(len(used.sized.options))} == {
        "reclaimed"
    }
    held = ({"cell": "ostrel-21-48", "count": 98},)
    drawer = options(drawer=held, drawer_only=True)
    assert {drawer.sized.options.cell(at).id for at in range(len(drawer.sized.options))} == {
        "ostrel-21-48"
    }
    assert (drawer.sized.options.series * drawer.sized.options.parallel).max() <= 98
    assert any("98 are on hand" in spoken(item.reason) for item in drawer.sized.options.refused)
    none = options(most_mass_kg=0.1)
    assert not len(none.sized.options)
    assert "limits-refuse" in {item.code for item in none.findings}


def test_a_picked_pack_that_serves_is_an_option_however_large(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(barrow, {"pack.parallel": 20}), catalogue)
    assert evaluation.sized.choice.index is not None
    assert evaluation.sized.choice.parallel == 20
    small = evaluate(with_values(barrow, {"pack.parallel": 3}), catalogue)
    assert small.sized.choice.index is None


def test_side_by_side_agrees_with_the_figures(trimmer: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(trimmer, catalogue)
    other = ("ostrel-18-20x", 5, 2)
    mine, second, old = side_by_side(
        evaluation.sized.sized_pack, evaluation.project.need, [in_hand(evaluation), other]
    )
    assert [entry.difference for entry in mine.entries] == [""] * len(MEASURES)
    again = with_values(trimmer, {"pack.cell": other[0], "pack.parallel": 2})
    (alone, _) = side_by_side(evaluate(again, catalogue).sized.sized_pack, again.need, [other])
    # What does not hang on the path of the pack in hand is the same from either side.
    assert [entry.text for entry in alone.entries[:4]] == [
        entry.text for entry in second.entries[:4]
    ]
    rows = {measure.name: entry for measure, entry in zip(MEASURES, old.entries, strict=True)}
    assert spoken(rows["capacity"].text) == "1.70 Ah"
    # 1.7 of 7.5 Ah, and 0.86 of 0.675 kg.
    assert spoken(rows["capacity"].difference) == "\u221277 %"
    assert (spoken(rows["mass of the cells"].difference), rows["mass of the cells"].better) == (
        "+27 %",
        -1,
    )
    for measure, entry in zip(MEASURES, mine.entries, strict=True):
        assert measure.figure in evaluation.figures
        value = evaluation.figures[measure.figure].number
        if measure.unit in ("V", "Ah", "kg", "l"):
            assert float(spoken(entry.text).split()[0]) == pytest.approx(value, rel=5e-3)


@pytest.mark.parametrize("series", [4, 13, 14, 19])
@pytest.mark.parametrize("parallel", [1, 3, 8])
def test_what_is_said_of_any_pack_holds(evaluation: Evaluation, series: int, parallel: int) -> None:
    sized_pack = evaluation.sized.sized_pack
    field = field_of(sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack)
    for family in ("cobalt", "phosphate", "titanate", "sodium"):
        row = typical_row(sized_pack, evaluation.sized.options, family)
        assert row is not None
        answer = why_not(sized_pack, row, series, parallel)
        at = (field.rows == row) & (field.series == series) & (field.parallel == parallel)
        assert (answer.failed == "") == bool(np.any(field.serves[at]))
        if answer.cure is not None:
            cured = why_not(sized_pack, row, *answer.cure[1:])
            assert cured.failed == ""
        if answer.failed:
            assert answer.change


def test_the_change_that_is_named_cures(trimmer: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(trimmer, catalogue)
    row = typical_row(
        evaluation.sized.sized_pack, evaluation.sized.options, evaluation.sized.choice.cell.id
    )
    assert row is not None
    answer = why_not(evaluation.sized.sized_pack, row, 5, 1)
    assert answer.failed in ("continuous", "capacity", "peak")
    assert answer.cure is not None
    assert answer.cure[1] == 5
    assert why_not(evaluation.sized.sized_pack, row, *answer.cure[1:]).failed == ""


def test_equipment_that_stops_high_leaves_charge_unused(
    barrow: Project, catalogue: Catalogue
) -> None:
    high = with_values(
        barrow,
        {"need.stop_voltage_v": 45.5, "need.rated_voltage_v": 48.0, "need.peak_current_a": None},
    )
    evaluation = evaluate(high, catalogue)
    row = typical_row(evaluation.sized.sized_pack, evaluation.sized.options, "ostrel-21-48")
    assert row is not None
    answer = why_not(evaluation.sized.sized_pack, row, 13, 12)
    assert answer.failed == "usable"
    assert "75 % is the least" in spoken(answer.text)
    volts = float(spoken(answer.change).split("runs down to ")[1].split()[0])
    for stop, serves in ((volts, True), (volts + 0.15, False)):
        eased = evaluate(with_values(high, {"need.stop_voltage_v": stop}), catalogue)
        assert (why_not(eased.sized.sized_pack, row, 13, 12).failed == "") == serves


def test_a_chemistry_without_a_count_is_told_its_window(
    trimmer: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(trimmer, catalogue)
    row = typical_row(evaluation.sized.sized_pack, evaluation.sized.options, "sodium")
    assert row is not None
    answer = why_not(evaluation.sized.sized_pack, row, None, None)
    assert answer.failed == "window"
    assert answer.cure is None
    assert "6 in series for equipment of at most 23.7 V" in spoken(answer.change)
    wider = evaluate(with_values(trimmer, {"need.max_voltage_v": 23.7}), catalogue)
    assert why_not(wider.sized.sized_pack, row, 6, None).failed == ""


def test_a_capacity_that_is_short_says_what_it_would_last(
    barrow: Project, catalogue: Catalogue
) -> None:
    warm = with_values(barrow, {"pack.temperature_limit_c": 80.0})
    evaluation = evaluate(warm, catalogue)
    row = typical_row(evaluation.sized.sized_pack, evaluation.sized.options, "ostrel-21-48")
    assert row is not None
    answer = why_not(evaluation.sized.sized_pack, row, 14, 6)
    assert answer.failed == "capacity"
    assert "be content with 1 h 06" in spoken(answer.change)
    less = evaluate(with_values(warm, {"need.runtime_h": 66 / 60}), catalogue)
    assert why_not(less.sized.sized_pack, row, 14, 6).failed == ""


@given(st.integers(2, 18), st.integers(1, 40), st.integers(0, 27))
def test_any_pack_of_any_cell_gets_an_answer_that_holds(
    catalogue: Catalogue, series: int, parallel: int, row: int
) -> None:
    need = {"need.max_voltage_v": 43.0, "need.stop_voltage_v": 30.0, "need.current_a": 18.0}
    sized_pack = evaluate(with_values(Project(), need), catalogue).sized.sized_pack
    answer = why_not(sized_pack, row, series, parallel)
    assert answer.pack[1:] == (series, parallel)
    if not answer.failed:
        assert answer.cure is None
        return
    if answer.cure is not None:
        cell, cured_series, cured_parallel = answer.cure
        assert cell == sized_pack.table.cells[row].id
        assert why_not(sized_pack, row, cured_series, cured_parallel).failed == ""
        # One thing is changed where one is enough.
        one_more = why_not(sized_pack, row, series, cured_parallel).failed == ""
        assert not one_more or cured_series == series or cured_parallel == parallel
    # A larger pack of the same count never fails where a smaller one serves.
    if why_not(sized_pack, row, series, parallel + 1).failed:
        assert answer.failed


def test_a_filtered_field_is_a_part_of_the_whole(barrow: Project, catalogue: Catalogue) -> None:
    def serving(**limits: object) -> set[tuple[int, int, int]]:
        project = with_values(barrow, {f"pack.{name}": value for name, value in limits.items()})
        sized_pack = evaluate(project, catalogue).sized.sized_pack
        field = field_of(sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack, 30)
        return {
            (int(field.rows[at]), int(field.series[at]), int(field.parallel[at]))
            for at in np.flatnonzero(field.serves)
        }

    whole, light = serving(), serving(most_mass_kg=8.0)
    assert light < whole
    assert whole < serving(origin="any")
    assert serving(most_cost=1e6) == whole
    assert not serving(drawer_only=True)


def test_nothing_in_reach_is_an_empty_field(barrow: Project, catalogue: Catalogue) -> None:
    project = with_values(barrow, {"need.max_voltage_v": 48.0, "need.stop_voltage_v": 47.5})
    sized_pack = evaluate(project, catalogue).sized.sized_pack
    field = field_of(sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack)
    reach = field.within_reach()
    assert len(reach) == int(np.sum(field.serves[reach]))
    assert undominated(np.zeros(0), np.zeros(0), (True, False)).tolist() == []
