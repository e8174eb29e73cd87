"""The windows of strips: section by density is a division, and what lies in them carries."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.specification.given import held
from lumvak.core.specification.joints import (
    conductor_in_hand,
    conductor_missed,
    joint_asked,
    joints_spec,
    section_worth_mm2,
)


def test_by_density_it_is_amps_over_density(barrow: Project, catalogue: Catalogue) -> None:
    changes = {
        "joints.school": "rule",
        "joints.rule_a_per_mm2": 5.0,
        "joints.series.part": None,
        "joints.series.layers": None,
        "joints.series.strips": 7,
    }
    evaluation = evaluate(with_values(barrow, changes), catalogue)
    result = evaluation.laid_out.series
    spec = joints_spec("series", evaluation)
    if result.chosen.part.material == "nickel":
        even = max(22.0 / 5.0, 0.0) * result.over
        assert spec.of("area_mm2").bounds[0] >= even * (1.0 - 1e-6)


def test_the_recommended_lies_in_them_and_a_thin_one_does_not(
    catalogue: Catalogue, barrow: Project
) -> None:
    left_open = ("series.part", "series.layers", "series.strips", "group.part", "group.layers")
    free = with_values(barrow, {f"joints.{name}": None for name in left_open})
    evaluation = evaluate(free, catalogue)
    for key in ("series", "group"):
        asked = joint_asked(key, evaluation)  # type: ignore[arg-type]
        spec = joints_spec(key, evaluation)  # type: ignore[arg-type]
        assert conductor_missed(spec, asked.result.chosen.part, asked) == ()
        assert spec.quantity > 0.0 and spec.unit == "m"
    thin = evaluate(
        with_values(barrow, {"need.current_a": 60.0, "need.peak_current_a": 90.0}), catalogue
    )
    asked = joint_asked("series", thin)
    spec = joints_spec("series", thin)
    assert "area_mm2" in conductor_missed(spec, asked.result.chosen.part, asked)


def test_one_of_a_better_metal_may_be_thinner(barrow: Project, catalogue: Catalogue) -> None:
    heavy = with_values(barrow, {"need.current_a": 38.0, "need.peak_current_a": 38.0})
    evaluation = evaluate(heavy, catalogue)
    asked, spec = joint_asked("series", evaluation), joints_spec("series", evaluation)
    nickel, copper = (catalogue.conductors[key] for key in ("nickel-0.1x8", "copper-0.1x10"))
    one = replace(asked, result=replace(asked.result, chosen=asked.laid(nickel, 1)))
    assert "area_mm2" in conductor_missed(spec, nickel, one)
    assert "area_mm2" not in conductor_missed(spec, copper, one)
    assert spec.of("thickness_mm").bounds[1] == pytest.approx(barrow.joints.welder_limit_mm)


def test_a_strip_in_hand_is_laid_in_as_many_layers_as_carry_the_load(
    barrow: Project, catalogue: Catalogue
) -> None:
    heavy = with_values(barrow, {"need.current_a": 38.0, "need.peak_current_a": 38.0})
    evaluation = evaluate(heavy, catalogue)
    asked, spec = joint_asked("series", evaluation), joints_spec("series", evaluation)
    thin = {"thickness_mm": 0.1, "width_mm": 8.0, "material": "nickel"}
    laid = conductor_in_hand(thin, asked)
    assert laid is not None and laid.layers > 1 and asked.share(laid) <= 1.0
    assert asked.share(asked.laid(laid.part, laid.layers - 1)) > 1.0
    judged = held(spec, thin, evaluation)
    assert judged.layers == laid.layers
    assert judged.does and judged.then_a is not None and judged.then_a > 0.0
    worth = section_worth_mm2(laid, asked)
    assert worth >= spec.of("area_mm2").bounds[0]
    assert conductor_in_hand({"thickness_mm": 0.1}, asked) is None
    wide = held(spec, {**thin, "width_mm": 60.0, "join": "screw"}, evaluation)
    assert {item.window.name for item in wide.short} == {"join", "width_mm"}


def test_where_no_current_flows_any_does(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(barrow, {"pack.parallel": 1}), catalogue)
    asked, spec = joint_asked("group", evaluation), joints_spec("group", evaluation)
    thick = replace(catalogue.conductors["nickel-0.1x8"], thickness_mm=0.9)
    assert not spec.needed and conductor_missed(spec, thick, asked) == ()
