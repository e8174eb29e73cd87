"""Drawn packs: the same seed the same result, no spread the plain run, and where the band lies."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.document.run import RunSettings
from lumvak.core.evaluate import evaluate
from lumvak.core.run.figures import modelled_pack, overlaid, worst_sag_v
from lumvak.core.run.tolerance import Cancelled, draw, tolerance, tolerance_figures
from lumvak.core.spelling import spoken
from tests.amounts import amounts

NONE = RunSettings(
    capacity_spread=0.0, resistance_spread=0.0, ambient_spread_k=0.0, load_spread=0.0, draws=200
)
FEW = RunSettings(draws=400)


@pytest.mark.parametrize("demo", ["barrow", "trimmer"])
def test_without_spread_every_pack_is_the_plain_run(
    demo: str, request: pytest.FixtureRequest, catalogue: Catalogue
) -> None:
    evaluation = evaluate(request.getfixturevalue(demo), catalogue)
    run = evaluation.run.run
    result = tolerance(evaluation.sized.sized_pack, evaluation.run.pack, run.hours, NONE)
    assert np.ptp(result.hours) == 0.0
    assert result.hours[0] == pytest.approx(run.hours, rel=1e-3)
    assert result.taken_ah[0] == pytest.approx(run.taken_ah, rel=2e-3)
    assert result.delivered_wh[0] == pytest.approx(run.delivered_wh, rel=2e-3)
    assert result.warmest_c[0] == pytest.approx(run.temperature_c.max(), abs=0.1)


def test_the_same_seed_gives_the_same_result(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    one, two = (
        tolerance(evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, FEW)
        for _ in range(2)
    )
    assert np.array_equal(one.hours, two.hours)
    assert one.chance == two.chance
    other = tolerance(
        evaluation.sized.sized_pack,
        evaluation.run.pack,
        evaluation.run.run.hours,
        replace(FEW, seed=2),
    )
    assert not np.array_equal(one.hours, other.hours)


def test_a_load_alone_spreads_the_run_time_as_its_inverse(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(barrow, catalogue)
    settings = replace(NONE, load_spread=0.05, draws=1000)
    result = tolerance(
        evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, settings
    )
    # The charge taken hardly hangs on the load, so that time x load is nearly the same for all.
    product = result.hours * result.drawn.load
    assert np.std(product) / np.mean(product) < 0.01
    assert np.std(result.hours) / np.mean(result.hours) == pytest.approx(0.05, rel=0.15)
    low, middle, high = result.run_band_h()
    assert low < middle < high
    assert np.mean(result.hours < low) == pytest.approx(0.05, abs=0.002)


def test_the_weakest_group_sets_the_capacity(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    pack = evaluation.run.pack
    settings = RunSettings(capacity_spread=0.04, draws=20_000)
    drawn = draw(pack, settings)
    # Mean of the least of 14 standard normals is -1.703 of one; a group of 7 spreads by 1/sqrt 7.
    assert drawn.capacity.mean() == pytest.approx(1.0 - 1.703 * 0.04 / 7**0.5, rel=1e-3)
    assert abs(drawn.resistance - 1.0).max() <= 0.3 + 1e-12
    assert drawn.ambient_c.mean() == pytest.approx(pack.ambient_c, abs=0.15)


def test_the_chance_is_the_share_that_meets_the_need(barrow: Project, catalogue: Catalogue) -> None:
    def chance(**need: object) -> float | None:
        project = with_values(barrow, {f"need.{name}": value for name, value in need.items()})
        evaluation = evaluate(project, catalogue)
        return tolerance(
            evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, FEW
        ).chance

    likely, seldom = chance(runtime_h=1.2), chance(runtime_h=1.45)
    assert likely is not None
    assert seldom is not None
    assert 0.0 < seldom < likely < 1.0
    assert chance(endurance_basis="open") is None
    by_charge = chance(endurance_basis="capacity", capacity_ah=20.0)
    assert by_charge == 1.0


def test_it_reports_and_can_be_called_off(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    shares: list[float] = []

    def report(share: float) -> bool:
        shares.append(share)
        return share < 0.5

    with pytest.raises(Cancelled):
        tolerance(
            evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, FEW, report
        )
    assert shares == sorted(shares)
    assert 0.5 <= shares[-1] < 0.55


def test_its_figures_lead_back_to_the_spreads(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    result = tolerance(
        evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, FEW
    )
    figures = {
        item.key: item
        for item in tolerance_figures(
            result, evaluation.figures["run.time_h"], evaluation.sized.demand, FEW
        )
    }
    assert figures["tolerance.chance"].value == result.chance
    inputs = {part.key for part in figures["tolerance.low_h"].inputs}
    assert {"run.time_h", "run.load_spread", "run.seed"} <= inputs


def test_a_run_may_start_below_full_and_tells_sag_and_distance(
    barrow: Project, catalogue: Catalogue
) -> None:
    full, half = (
        evaluate(
            with_values(barrow, {"run.start_charge": charge, "need.consumption_wh_per_km": 140.0}),
            catalogue,
        )
        for charge in (1.0, 0.5)
    )
    assert half.run.run.charge[0] == 0.5
    assert half.figures["run.time_h"].number < 0.55 * full.figures["run.time_h"].number
    assert full.figures["run.distance_km"].number == pytest.approx(
        full.figures["run.delivered_wh"].number / 140.0
    )
    # Steady at half charge: current x (cells + path).
    run = full.run.run
    pack = full.run.pack
    assert worst_sag_v(pack, run) == full.figures["run.worst_sag_v"].number
    assert full.figures["run.worst_sag_v"].number > full.figures["pack.sag_v"].number * 0.5


def test_other_packs_run_beside_as_they_would_in_hand(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(barrow, catalogue)
    other = ("tallin-p-105", 14, 3)
    (course,) = overlaid(evaluation.sized.sized_pack, [other, ("nobody", 1, 1)], barrow.run)
    taken = with_values(
        barrow, {"pack.cell": other[0], "pack.series": other[1], "pack.parallel": other[2]}
    )
    alone = evaluate(taken, catalogue).run.run
    # The joints follow the recommendation for the pack in hand, so the path differs a little.
    assert course.run.hours == pytest.approx(alone.hours, rel=0.02)
    assert spoken(course.name) == "14S3P of Tallin flat 105"


@given(
    amounts(0.1),
    amounts(0.3),
    amounts(10.0),
    amounts(0.2),
    st.integers(0, 10_000),
)
def test_draws_stay_within_three_spreads(
    catalogue: Catalogue, capacity: float, resistance: float, ambient: float, load: float, seed: int
) -> None:
    sized_pack = evaluate(Project(), catalogue).sized.sized_pack
    pack = modelled_pack(
        sized_pack, sized_pack.choice.row, sized_pack.choice.series, sized_pack.choice.parallel
    )
    settings = RunSettings(
        capacity_spread=capacity,
        resistance_spread=resistance,
        ambient_spread_k=ambient,
        load_spread=load,
        seed=seed,
        draws=200,
    )
    drawn = draw(pack, settings)
    assert len(drawn.load) == 200
    assert np.all(np.abs(drawn.resistance - 1.0) <= 3.0 * resistance + 1e-12)
    assert np.all(np.abs(drawn.ambient_c - pack.ambient_c) <= 3.0 * ambient + 1e-9)
    assert np.all(drawn.load > 0.0)
    # The weakest of many groups lies under the middle, but a group is steadier than a cell.
    assert drawn.capacity.mean() <= 1.0 + 1e-12
    assert np.all(drawn.capacity >= 1.0 - 3.0 * capacity / pack.parallel**0.5 - 1e-12)


def test_the_band_narrows_with_the_spreads(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    widths = []
    for share in (0.25, 0.5, 1.0):
        settings = replace(
            FEW,
            **{
                name: getattr(FEW, name) * share
                for name in (
                    "capacity_spread",
                    "resistance_spread",
                    "ambient_spread_k",
                    "load_spread",
                )
            },
        )
        low, _, high = tolerance(
            evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, settings
        ).run_band_h()
        widths.append(high - low)
    assert widths == sorted(widths)
    # The same draws, scaled: the width goes with the spreads.
    assert widths[1] / widths[0] == pytest.approx(2.0, rel=0.1)


def test_the_band_of_volts_holds_nine_tenths(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    result = tolerance(
        evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, FEW
    )
    low, middle, high = result.band_v
    shown = np.isfinite(low)
    assert np.all(low[shown] <= middle[shown])
    assert np.all(middle[shown] <= high[shown])
    # It begins with all packs and ends where fewer than one in twenty still runs.
    assert shown[0]
    last = result.time_s[shown][-1] / 3600.0
    assert last == pytest.approx(result.run_band_h()[2], rel=0.02)


def test_a_power_load_and_a_start_below_full_are_drawn_too(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {"need.load_basis": "power", "need.power_w": 600.0, "run.start_charge": 0.6},
    )
    evaluation = evaluate(project, catalogue)
    settings = replace(NONE, start_charge=0.6)
    result = tolerance(
        evaluation.sized.sized_pack, evaluation.run.pack, evaluation.run.run.hours, settings
    )
    assert result.hours[0] == pytest.approx(evaluation.run.run.hours, rel=2e-3)
    assert result.delivered_wh[0] == pytest.approx(evaluation.run.run.delivered_wh, rel=2e-3)
