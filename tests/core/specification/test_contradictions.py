"""Empty windows: named by two demands, confirmed by trying, and opened by what is proposed."""

import random

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, worker
from lumvak.core.specification.contradictions import contradictions, empty_parts
from lumvak.core.specification.fuse import fuse_missed, fuse_spec, main_fuse_asked
from lumvak.core.spelling import spoken
from tests.specified import random_part


def test_a_thin_wire_and_a_high_peak_have_no_fuse(barrow: Project, catalogue: Catalogue) -> None:
    project = with_values(
        barrow,
        {"need.peak_current_a": 150.0, "need.peak_duration_s": 5.0, "leads.area_mm2": 1.5},
    )
    evaluation = evaluate(project, catalogue)
    assert "fuse" in empty_parts(evaluation)
    asked = main_fuse_asked(evaluation)
    spec, draw = fuse_spec(asked), random.Random(1)
    # None of two hundred drawn ones does.
    for _ in range(200):
        assert fuse_missed(spec, random_part("fuse", evaluation, draw), asked)
    found = contradictions(evaluation, worker(catalogue))
    fuse = next(item for item in found if item.part == "fuse")
    assert "hold" in spoken(fuse.between[0]) and "spare" in spoken(fuse.between[1])
    assert fuse.changes
    for change in fuse.changes:
        opened = evaluate(with_values(project, change.changes), catalogue)
        assert "fuse" not in empty_parts(opened), spoken(change.text)
    stop = next(item for item in evaluation.findings if item.code == "fuse-window")
    assert stop.severity == "stop" and "no fuse does both" in spoken(stop.text)


def test_where_all_windows_are_open_nothing_is_tried(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    tried: list[Project] = []
    assert contradictions(evaluation, lambda item: tried.append(item) or evaluation) == ()  # type: ignore[func-returns-value]
    assert not tried and not empty_parts(evaluation)
