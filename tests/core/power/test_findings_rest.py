"""What drains the pack at rest, and what its rails draw through their fuses."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from tests.core.power.failures import Failure, codes, each, told_and_cured

FAILURES: tuple[Failure, ...] = (
    ("shelf-cuts", "barrow", {"rest.meter_ma": 20.0}, {"rest.meter_ma": 0.0}),
    ("shelf-flat", "trimmer", {"rest.meter_ma": 8.0, "rest.days": 90.0}, {"rest.days": 20.0}),
)  # fmt: skip


@each(FAILURES)
def test_a_failure_is_told_and_goes_when_it_is_cured(
    failure: Failure, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    told_and_cured(failure, demos, catalogue)


def test_a_rail_overloads_its_fuse(catalogue: Catalogue) -> None:
    rails = ({"name": "12 V", "volts": 12.0, "fuse_a": 5.0},)
    loads = ({"name": "pump", "rail": "12 V", "amount": 4.5, "unit": "A", "hours": 1.0},)
    project = with_values(
        Project(),
        {
            "need.kind": "portable",
            "need.load_basis": "rails",
            "need.rails": rails,
            "need.appliances": loads,
        },
    )
    evaluation = evaluate(project, catalogue)
    found = next(item for item in evaluation.findings if item.code == "rail-fuse")
    assert found.severity == "warn"
    assert "5.62 A" in spoken(found.do)
    bare = with_values(project, {"need.rails": ({"name": "12 V", "volts": 12.0},)})
    assert "rail-unfused" in codes(evaluate(bare, catalogue))
