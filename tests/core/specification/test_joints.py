"""The windows of strips: section by density is a division, and what lies in them carries."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.specification.joints import conductor_missed, joints_spec


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
        result = evaluation.laid_out.series if key == "series" else evaluation.laid_out.group
        spec = joints_spec(key, evaluation)  # type: ignore[arg-type]
        assert conductor_missed(spec, result.chosen.part, result) == ()
        assert spec.quantity > 0.0 and spec.unit == "m"
    thin = evaluate(
        with_values(barrow, {"need.current_a": 60.0, "need.peak_current_a": 90.0}), catalogue
    )
    result = thin.laid_out.series
    spec = joints_spec("series", thin)
    assert "area_mm2" in conductor_missed(spec, result.chosen.part, result)


def test_one_of_a_better_metal_may_be_thinner(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    result, spec = evaluation.laid_out.series, joints_spec("series", evaluation)
    nickel, copper = (catalogue.conductors[key] for key in ("nickel-0.1x8", "copper-0.1x10"))
    least = spec.of("area_mm2").bounds[0]
    strips = result.chosen.strips * result.chosen.layers
    assert ("area_mm2" in conductor_missed(spec, nickel, result)) == (0.8 * strips < least)
    assert "area_mm2" not in conductor_missed(spec, copper, result)
    assert spec.of("thickness_mm").bounds[1] == pytest.approx(barrow.joints.welder_limit_mm)
