"""What lies in the pack, as figures and findings of the evaluation."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate

BOX = {"kind": "box", "length_mm": 130.0, "width_mm": 90.0, "height_mm": 80.0}


def test_parts_are_looked_at_with_the_room(catalogue: Catalogue) -> None:
    values = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 4,
        "pack.parallel": 2,
        "arrangement.room": BOX,
    }
    out = {"name": "meter", "x_mm": 120.0, "length_mm": 20.0}
    evaluation = evaluate(
        with_values(Project(), {**values, "arrangement.kept_free": (out,)}), catalogue
    )
    told = {item.code: item.severity for item in evaluation.findings}
    assert told["part-outside"] == "warn"
    assert {"layout.mass_kg", "layout.centre_z_mm", "layout.parts_g"} <= set(evaluation.figures)


def test_a_barrier_wants_its_thickness_between_two_cans(catalogue: Catalogue) -> None:
    values = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 6,
        "pack.parallel": 1,
        "arrangement.barrier_v": 0.0,
    }
    for gap, told in ((0.1, True), (0.2, False)):
        evaluation = evaluate(with_values(Project(), {**values, "joints.gap_mm": gap}), catalogue)
        assert ("barrier-tight" in {item.code for item in evaluation.findings}) == told
