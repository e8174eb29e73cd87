"""Curves of what is harmed, and the links of the chain over time, against their formulas."""

import math

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.opening_order import Curve
from lumvak.core.power.working import curve_figure, pair_figure
from lumvak.core.time_current import TIMES_S, at_time


def curve_of(evaluation: Evaluation, key: str) -> Curve:
    return next(curve for curve in evaluation.power.curves if curve.key == key)


def test_cells_are_harmed_at_80_degrees(evaluation: Evaluation) -> None:
    cell, parallel = evaluation.sized.choice.cell, evaluation.sized.choice.parallel
    curve = curve_of(evaluation, "cells")
    excess = max(0.0, evaluation.figures["network.cell_excess"].number)
    ohm = evaluation.sized.pack.cell_ohm.number
    # A second is too short for any heat to leave: I²·R·t = m·c·ΔT.
    amps = at_time(curve.low_a, 1.0) * (1.0 + excess) / parallel
    heat = cell.mass_g * 1e-3 * 950.0 * (80.0 - 18.0)
    assert amps**2 * ohm == pytest.approx(heat, rel=0.1)
    # For good it is what the film takes away.
    length, width = cell.footprint_mm
    area = 2.0 * (length + width) * cell.height_mm * 1e-6
    steady = math.sqrt((80.0 - 18.0) * FILM_W_PER_M2_K["closed"] * area / ohm)
    assert curve.low_a[-1] * (1.0 + excess) / parallel == pytest.approx(steady, rel=0.05)


def test_a_stronger_joint_is_harmed_later(barrow: Project, catalogue: Catalogue) -> None:
    thin = curve_of(evaluate(barrow, catalogue), "series-joints")
    stronger = with_values(barrow, {"joints.series.part": "nickel-0.2x10"})
    thick = curve_of(evaluate(stronger, catalogue), "series-joints")
    assert np.all(thick.low_a > thin.low_a)
    # The allowed rise for long is what the school allows at its limit, in proportion.
    evaluation = evaluate(barrow, catalogue)
    limit = evaluation.figures["network.series_limit_a"].number
    assert thin.low_a[-1] > limit


def test_links_share_the_current_of_all_cells(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(barrow, {"joints.link_a": 8.0}), catalogue)
    curve = curve_of(evaluation, "link")
    assert np.all(curve.low_a < curve.high_a)
    assert curve.high_a[-1] == pytest.approx(
        1.15 * 1.8 * 8.0 * evaluation.sized.choice.parallel, rel=1e-3
    )
    pairs = {(pair.first, pair.second) for pair in evaluation.power.pairs}
    assert {("load", "link"), ("board", "link"), ("fuse", "link")} <= pairs


def test_a_pair_without_board_or_fuse_is_not_made_up(barrow: Project, catalogue: Catalogue) -> None:
    none = with_values(barrow, {"power.fuse": "none", "protection.sensor": True})
    evaluation = evaluate(none, catalogue)
    assert all("fuse" not in (pair.first, pair.second) for pair in evaluation.power.pairs)
    assert "fuse" not in {link.key for link in evaluation.path.links}


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_every_pair_explains_itself(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    evaluation = evaluate(demos[demo], catalogue)
    for pair in evaluation.power.pairs:
        figure = pair_figure(
            pair, evaluation.power, evaluation.figures, evaluation.sized.pack.current
        )
        if math.isfinite(pair.margin_a):
            assert figure.number == pytest.approx(pair.margin_a)
        for part in figure.inputs:
            assert part.rule
            assert part.inputs or part.key == "power.short_a"
    for curve in evaluation.power.curves:
        least = curve_figure(
            curve,
            10.0,
            False,
            evaluation.power.board,
            evaluation.figures,
            evaluation.sized.pack.current,
        )
        assert least.value is None or least.number == pytest.approx(at_time(curve.low_a, 10.0))


def test_a_link_holds_no_less_than_for_good_at_any_time(evaluation: Evaluation) -> None:
    for link in evaluation.path.links:
        if link.hold_a is None:
            assert link.limit_a(1.0) == link.continuous_a
            continue
        assert link.hold_a.shape == TIMES_S.shape
        assert np.all(np.diff(link.hold_a) <= 1e-6 * link.hold_a[:-1])


def test_the_peak_of_a_link_is_on_its_curve(evaluation: Evaluation) -> None:
    for link in evaluation.path.links:
        if link.hold_a is not None and math.isfinite(link.peak_a):
            assert link.limit_a(link.peak_s) == pytest.approx(link.peak_a, rel=0.03), link.key


def test_fusible_links_carry_more_for_a_short_time(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(barrow, {"joints.link_a": 8.0}), catalogue)
    link = next(item for item in evaluation.path.links if item.key == "link")
    assert link.limit_a(9000.0) == pytest.approx(link.continuous_a)
    # Up to a minute it is what surely does not melt one: 0.85 × 1.8 of its rating and more.
    assert link.limit_a(30.0) >= 0.85 * 1.8 * link.continuous_a
    assert link.peak_a == pytest.approx(link.limit_a(link.peak_s))
