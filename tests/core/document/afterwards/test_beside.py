"""A second pack is a project or a few numbers, not both."""

import pytest

from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.spelling import spoken


def test_a_project_or_numbers() -> None:
    numbers = with_values(Project(), {"beside.capacity_ah": 9.0, "beside.ohm": 0.1})
    assert numbers.beside.capacity_ah == 9.0 and numbers.beside.by == "direct"
    with pytest.raises(ProjectError) as refused:
        with_values(numbers, {"beside.file": "second.lumvak.json"})
    assert "a project, or a few numbers" in spoken(refused.value.said)
    with pytest.raises(ProjectError):
        with_values(Project(), {"beside.at": 1.2})
