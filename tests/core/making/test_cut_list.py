import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.edit import with_values
from lumvak.core.document.making import Making
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.core.making.cut_list import cut_lines, where
from lumvak.core.making.stock import packed, stocks_of
from lumvak.core.making.strip_check import check
from lumvak.core.making.template import template_of
from lumvak.core.spelling import spoken


def test_strips_of_a_straight_pack_are_cut_whole(seen: Evaluation) -> None:
    cuts = seen.cuts
    lines = {line.size.role: line for line in cut_lines(cuts)}
    # Fourteen groups with two ends; six gaps of 22.8 mm and 5 mm beyond at both ends.
    assert lines["group"].count == 28
    assert lines["group"].size.length_mm == pytest.approx(6 * 22.8 + 10.0)
    assert lines["series"].count == 26 and lines["series"].size.length_mm == pytest.approx(32.8)
    laid = [piece for cut in cuts for piece in cut.pieces]
    assert sorted(laid) == list(range(len(seen.joined_pack.pieces)))
    assert spoken(where(cuts[0])).startswith("joint ")


def test_layers_are_counted_and_plates_cover_their_cells(
    barrow: Project, catalogue: Catalogue
) -> None:
    double = evaluate(with_values(barrow, {"joints.series.layers": 2}), catalogue)
    series = next(line for line in cut_lines(double.cuts) if line.size.role == "series")
    assert series.count == 52
    sheets = {"joints.side_a": "sheet", "joints.side_b": "sheet"}
    plates = [cut for cut in evaluate(with_values(barrow, sheets), catalogue).cuts
              if cut.size.role == "plate"]  # fmt: skip
    # A plate a level: thirteen joints over two groups, and one over each end group.
    assert len(plates) == 15
    assert {round(cut.size.width_mm, 1) for cut in plates} == {19.3, 42.1}
    assert {round(cut.size.length_mm, 1) for cut in plates} == {156.1}


def test_stock_adds_up(seen: Evaluation) -> None:
    lines = cut_lines(seen.cuts)
    stocks = stocks_of(lines, seen.catalogue.conductors, seen.project.making)
    for item in stocks:
        used = sum(map(sum, item.plan))
        assert item.cut_m == pytest.approx(used / 1000.0)
        assert item.left_m == pytest.approx(item.units * item.unit_mm / 1000.0 - item.cut_m)
        assert item.least <= item.units
    thin = next(item for item in stocks if spoken(item.part) == "nickel 0.1 × 5")
    assert thin.mass_g == pytest.approx(26 * 32.8 * 0.5 * 8908e-6)


@given(st.lists(st.floats(1.0, 1000.0), max_size=60), st.floats(1000.0, 3000.0))
def test_no_roll_is_cut_twice_and_the_plan_is_near_its_bound(
    lengths: list[float], unit: float
) -> None:
    plan, least = packed(lengths, unit)
    assert sorted(length for roll in plan for length in roll) == sorted(lengths)
    assert all(sum(roll) <= unit + 1e-6 for roll in plan)
    assert least <= len(plan) <= math.ceil(11 / 9 * max(least, 1)) + 1


def test_groups_come_before_joints_and_volts_rise(seen: Evaluation) -> None:
    steps = steps_in_hand(seen)
    volts = [step.volts for step in steps]
    assert volts == sorted(volts)
    assert volts[0] == pytest.approx(4.2) and volts[-1] == pytest.approx(58.8)
    assert [step.face for step in steps] == [-1, -1, 0, 1, 0, 1, -1, -1]
    assert "insulating ring" in spoken(steps[1].text) and steps[1].count == 98
    assert volts[4] == pytest.approx(8.4)
    laid = steps[-1].done
    assert laid == frozenset(range(len(seen.joined_pack.pieces)))
    assert steps[4].bare == frozenset(range(14))
    assert all(step.cover for step in steps)


@pytest.mark.parametrize("name", ["nickel", "plated steel"])
@given(
    st.floats(100.0, 1000.0), st.sampled_from([5.0, 8.0, 10.0]), st.sampled_from([0.15, 0.2, 0.3])
)
def test_a_strip_of_known_stuff_is_known(
    name: str, length: float, width: float, thickness: float
) -> None:
    ohm = MATERIALS[name].resistivity_ohm_m * length * 1e-3 / (width * thickness * 1e-6)
    found = check(
        Making(
            check_mohm=ohm * 1e3, check_meter_mohm=0.02, check_length_mm=length,
            check_width_mm=width, check_thickness_mm=thickness,
        )
    )  # fmt: skip
    assert found is not None
    rho = MATERIALS[name].resistivity_ohm_m * 1e9
    assert found.resistivity.number == pytest.approx(rho)
    assert found.sure and name in found.materials
    assert spoken(found.text).lower().startswith(("pure " + name) if name == "nickel" else name)


def test_the_strip_checker_says_when_it_cannot_tell() -> None:
    assert check(Making()) is None
    poor = check(Making(check_mohm=15.0, check_meter_mohm=8.0))
    assert poor is not None and not poor.sure and "Cannot be told" in spoken(poor.text)
    low, high, between = (check(Making(check_mohm=value)) for value in (4.0, 60.0, 17.0))
    assert low is not None and high is not None and between is not None
    assert (
        "under nickel" in spoken(low.text)
        and "over steel" in spoken(high.text)
        and "Between" in spoken(between.text)
    )


def test_the_template_is_true_to_size_and_mirrored(seen: Evaluation) -> None:
    cuts = seen.cuts
    side_a, side_b = template_of(seen.joined_pack, seen.clearance.ends, cuts)
    length, width, _ = seen.joined_pack.layout.size_mm
    for side in (side_a, side_b):
        cells = [shape for shape in side.shapes if shape.layer == f"{side.name}_CELLS"]
        assert len(cells) == 98
        places = np.array([shape.points[0] for shape in cells])
        assert np.ptp(places[:, 0]) + 21.3 == pytest.approx(length)
        assert np.ptp(places[:, 1]) + 21.3 == pytest.approx(width)
        assert side.width_mm >= length and side.height_mm >= width
    first_a, first_b = (
        next(shape.points[0] for shape in side.shapes if shape.layer.endswith("_CELLS"))
        for side in (side_a, side_b)
    )
    assert first_a[0] == pytest.approx(side_b.width_mm - first_b[0], abs=5.0)
    assert first_a[0] < 20.0 < first_b[0]
    strip = next(cut for cut in cuts if cut.size.role == "group")
    (corners,) = strip.outlines
    assert math.dist(corners[0], corners[1]) == pytest.approx(strip.size.length_mm)
    assert math.dist(corners[1], corners[2]) == pytest.approx(strip.size.width_mm)
