"""Group voltages in the document."""

import pytest

from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project


def test_sets_and_points_are_kept_within_what_a_group_may_have() -> None:
    fresh = Project()
    kept = with_values(fresh, {"watch.sets": ({"when": "noon", "volts": (3.7, 3.71)},)})
    assert kept.watch.sets[0].volts == (3.7, 3.71)
    with pytest.raises(ProjectError, match="olt"):
        with_values(fresh, {"watch.sets": ({"volts": (37.0,)},)})
    with pytest.raises(ProjectError, match="such as 2026-05-31"):
        with_values(fresh, {"watch.calibrations": ({"shown_v": 3.7, "true_v": 3.7, "day": "May"},)})
