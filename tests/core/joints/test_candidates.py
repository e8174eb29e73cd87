import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.conductors.strip_and_wire import strip_ohm
from lumvak.core.document.edit import with_values
from lumvak.core.document.joints import Joints
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.joints.candidates import (
    Role,
    conductors_only,
    current_share,
    judged,
    rise_curve_k,
    strip_count,
)
from lumvak.core.spelling import spoken
from tests.core.joints.judging import all_judged, setting_for
from tests.length import so_many


@pytest.mark.parametrize(
    ("take_off", "parallel", "share"),
    [("end", 5, 0.8), ("middle", 5, 0.4), ("middle", 4, 0.5), ("spread", 5, 0.2), ("end", 1, 0.0)],
)
def test_share_of_the_busiest_piece_of_an_end_group(
    take_off: str, parallel: int, share: float
) -> None:
    assert current_share("group", parallel, take_off, parallel) == pytest.approx(share)  # type: ignore[arg-type]


def test_few_series_strips_load_the_inner_groups_too() -> None:
    assert current_share("group", 8, "spread", 1) == pytest.approx(0.5)
    assert current_share("group", 8, "spread", 8) == pytest.approx(1 / 8)
    assert current_share("series", 8, "end", 2) == 1.0


@given(st.integers(2, 40), st.integers(1, 40))
def test_a_middle_take_off_never_loads_more_than_one_end(parallel: int, strips: int) -> None:
    middle = current_share("group", parallel, "middle", strips)
    assert middle <= current_share("group", parallel, "end", strips)
    assert 0.0 < middle <= 1.0


def test_a_series_joint_is_its_strips_in_parallel(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue)
    item = judged(catalogue.conductors["nickel-0.2x8"], 8.0, 2, 7, setting, Joints())
    assert item.ohm == pytest.approx(strip_ohm(item.section) / 7)
    assert item.drop_v == pytest.approx(22.0 * item.ohm)
    assert item.loss_w == pytest.approx(22.0**2 * item.ohm)
    assert item.section.length_mm == pytest.approx(21.3 + 1.5)
    assert item.limits_a["loss"] * item.ohm == pytest.approx(Joints().loss_mv * 1e-3)


def test_limits_scale_with_the_strips(catalogue: Catalogue) -> None:
    setting, part = setting_for(catalogue), catalogue.conductors["nickel-0.15x8"]
    one = judged(part, 8.0, 1, 1, setting, Joints())
    seven = judged(part, 8.0, 1, 7, setting, Joints())
    for school in ("temperature", "rule", "loss"):
        assert seven.limits_a[school] == pytest.approx(7 * one.limits_a[school])


def test_one_cell_in_parallel_has_no_group_joint(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, "group", parallel=1)
    item = judged(catalogue.conductors["nickel-0.15x8"], 8.0, 1, 1, setting, Joints())
    assert all(math.isinf(limit) for limit in item.limits_a.values())
    assert item.loss_w == 0.0


@pytest.mark.parametrize(
    ("part", "cell", "word"),
    [
        ("nickel-0.25x10", "ostrel-21-48", "the welder joins 0.2 mm"),
        ("copper-0.2x15", "ostrel-21-48", "welds like 0.8 mm"),
        ("copper-bar-2x20", "ostrel-21-48", "no posts"),
        ("copper-bar-1.5x12", "ostrel-21-48", "heat goes into the cell"),
        ("nickel-0.2x10", "fennimor-b-50", "screwed posts"),
    ],
)
def test_what_cannot_be_joined_says_why(
    catalogue: Catalogue, part: str, cell: str, word: str
) -> None:
    setting = setting_for(catalogue, cell=catalogue.cells[cell])
    conductor = catalogue.conductors[part]
    item = judged(conductor, conductor.width_mm, 1, 1, setting, Joints())
    assert word in spoken(item.barred)


def test_a_stronger_welder_lifts_the_bar(catalogue: Catalogue) -> None:
    conductor = catalogue.conductors["nickel-0.25x10"]
    joints = Joints(welder_limit_mm=0.3)
    assert not judged(conductor, 10.0, 1, 7, setting_for(catalogue), joints).barred


@pytest.mark.parametrize(
    ("form", "role", "count"),
    [("strip", "series", 7), ("sheet", "series", 1), ("strip", "group", 1)],
)
def test_strips_side_by_side(catalogue: Catalogue, form: str, role: str, count: int) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    assert strip_count(None, form, role, cell, 7) == count  # type: ignore[arg-type]
    assert strip_count(3, form, role, cell, 7) == 3  # type: ignore[arg-type]
    # Over posts one bar lies from group to group.
    assert strip_count(None, form, role, catalogue.cells["fennimor-b-50"], 7) == 1  # type: ignore[arg-type]


def test_the_rise_curve_passes_through_the_judged_points(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue)
    item = judged(catalogue.conductors["nickel-0.1x5"], 5.0, 1, 2, setting, Joints())
    limit = item.limits_a["temperature"]
    curve = rise_curve_k(item, setting, np.array([0.0, setting.current_a, limit]))
    assert curve == pytest.approx([0.0, item.rise_k, 20.0])
    assert np.isnan(rise_curve_k(item, setting, np.array([1e4]))[0])


def test_sheets_are_cut_to_what_they_lie_on(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, parallel=3)
    sheets = [
        item for item in all_judged(catalogue, setting, Joints()) if item.part.form == "sheet"
    ]
    assert sheets
    part: Conductor = sheets[0].part
    assert sheets[0].width_mm == pytest.approx(min(part.width_mm, 3 * 22.8 - 1.5))


@given(
    st.one_of(st.none(), st.integers(1, 7)),
    st.sampled_from(["end", "middle", "spread"]),
    st.booleans(),
)
@settings(max_examples=so_many(8, 25), deadline=None)
def test_a_group_strip_carries_the_share_of_the_series_strips_there_are(
    demos: dict[str, Project],
    catalogue: Catalogue,
    strips: int | None,
    take_off: str,
    entered: bool,
) -> None:
    """Whether the group's conductor was entered or proposed, the number of series strips counts."""
    changes = {
        "pack.series": 10,
        "pack.parallel": 7,
        "joints.series.strips": strips,
        "joints.take_off": take_off,
        "joints.series.part": "nickel-0.1x5",
        "joints.group.part": "nickel-0.15x8" if entered else None,
    }
    evaluation = evaluate(with_values(demos["barrow"], changes), catalogue)
    count = 7 if strips is None else strips
    share = current_share("group", 7, take_off, count)  # type: ignore[arg-type]
    assert evaluation.figures["joints.group.current_a"].number == pytest.approx(
        evaluation.sized.pack.current.number * share
    )


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
@pytest.mark.parametrize("role", ["series", "group"])
def test_nothing_is_left_out_that_the_joints_of_a_role_need(
    demo: str, role: Role, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    """Judged with all that is set of the joints, or with what is kept of it, it is the same."""
    evaluation = evaluate(demos[demo], catalogue)
    for strips in (None, 1, 2, 5):
        series = replace(demos[demo].joints.series, strips=strips)
        joints = replace(demos[demo].joints, series=series, take_off="spread")
        setting = (
            evaluation.laid_out.series if role == "series" else evaluation.laid_out.group
        ).setting
        for part in list(catalogue.conductors.values())[::9]:
            whole = judged(part, part.width_mm, 1, 1, setting, joints)
            kept = judged(
                part, part.width_mm, 1, 1, setting, conductors_only(role, joints, joints.gap_mm)
            )
            assert whole.limits_a == kept.limits_a
            assert whole.current_a == kept.current_a


def test_density_and_heat_into_a_cell_stand_beside_the_schools(
    catalogue: Catalogue, barrow: Project
) -> None:
    evaluation = evaluate(barrow, catalogue)
    for joint in (evaluation.laid_out.series, evaluation.laid_out.group):
        role, chosen = joint.setting.role, joint.chosen
        section = chosen.section.area_m2 * 1e6 * chosen.strips
        density = evaluation.figures[f"joints.{role}.density_a_per_mm2"].number
        assert density * section == pytest.approx(chosen.current_a)
        into = evaluation.figures[f"joints.{role}.cell_w"].number
        many = joint.setting.parallel if role == "series" else 1
        assert into * many == pytest.approx(chosen.loss_w)
