import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K, block_area_m2, lump_of, rise_k
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken


def one(value: float) -> np.ndarray:
    return np.array([value])


def test_area_of_a_square_block_by_hand() -> None:
    # 100 cells of 20 x 20 mm make a slab of 0.2 x 0.2 m, 70 mm high.
    area = block_area_m2(one(100.0), one(400.0), one(70.0))
    assert float(area[0]) == pytest.approx(2 * 0.04 + 4 * 0.2 * 0.07)


def test_rise_agrees_with_the_differential_equation() -> None:
    lump = lump_of(one(0.15), one(6.0), 5.0)
    heat, resistance = 40.0, 1.0 / (5.0 * 0.15)
    capacity = 6.0 * 950.0
    solved = solve_ivp(
        lambda _, rise: (heat - rise / resistance) / capacity,
        (0.0, 5000.0),
        [0.0],
        rtol=1e-10,
        atol=1e-10,
    )
    assert float(rise_k(lump, one(heat), one(5000.0))[0]) == pytest.approx(solved.y[0][-1])
    assert float(rise_k(lump, one(heat), one(math.inf))[0]) == pytest.approx(heat * resistance)


def test_a_short_duty_warms_as_if_nothing_cooled() -> None:
    lump = lump_of(one(0.15), one(6.0), 5.0)
    rise = float(rise_k(lump, one(40.0), one(1.0))[0])
    assert rise == pytest.approx(40.0 / (6.0 * 950.0), rel=1e-3)


def test_figures_of_warmth_hang_together(evaluation: Evaluation) -> None:
    def value(key: str) -> float:
        return evaluation.figures[key].number

    steady = value("heat.power_w") * value("heat.resistance_k_per_w")
    assert value("heat.rise_steady_k") == pytest.approx(steady)
    share = 1.0 - math.exp(-1.25 / value("heat.time_constant_h"))
    assert value("heat.rise_end_k") == pytest.approx(steady * share)
    assert value("heat.temperature_end_c") == pytest.approx(18.0 + value("heat.rise_end_k"))
    assert value("needs.temperature") == pytest.approx(7 * value("heat.rise_end_k") / (55.0 - 18.0))


def test_temperature_may_set_the_parallel_count(plain: Project, catalogue: Catalogue) -> None:
    warm = with_values(plain, {"pack.temperature_limit_c": 28.0, "need.ambient_c": 25.0})
    options = evaluate(warm, catalogue).sized.options
    assert "temperature" in options.binding
    cool = evaluate(with_values(warm, {"pack.enclosure": "moving"}), catalogue).sized.options
    one_cell = [options.cell(place).id for place in range(len(options))].index("tallin-26-50")
    same = [cool.cell(place).id for place in range(len(cool))].index("tallin-26-50")
    assert cool.parallel[same] < options.parallel[one_cell]


def test_no_count_helps_where_the_air_is_too_warm(plain: Project, catalogue: Catalogue) -> None:
    hot = with_values(plain, {"need.ambient_c": 55.0})
    evaluation = evaluate(hot, catalogue)
    assert len(evaluation.sized.options) == 0
    assert any("warmer" in spoken(item.reason) for item in evaluation.sized.options.refused)


def test_better_cooling_means_less_rise(evaluation: Evaluation, catalogue: Catalogue) -> None:
    rises = [
        evaluate(with_values(evaluation.project, {"pack.enclosure": name}), catalogue)
        .figures["heat.rise_end_k"]
        .number
        for name in FILM_W_PER_M2_K
    ]
    assert rises == sorted(rises, reverse=True)
