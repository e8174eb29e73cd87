"""What was found in a shop."""

import pytest

from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.document.shopping import GivenFigure, PartFound


def one(name: str) -> PartFound:
    figures = (GivenFigure(name="series", value=14.0), GivenFigure(name="kind", word="full"))
    return PartFound(part="bms", name=name, figures=figures)


def test_figures_are_numbers_or_words() -> None:
    assert one("grey").given == {"series": 14.0, "kind": "full"}


def test_two_of_one_name_and_more_than_three_of_a_kind_are_refused() -> None:
    kept = with_values(Project(), {"shopping.found": (one("a"), one("b"), one("c"))})
    assert len(kept.shopping.found) == 3
    with pytest.raises(ProjectError, match="two are called"):
        with_values(Project(), {"shopping.found": (one("a"), one("a"))})
    with pytest.raises(ProjectError, match="more than 3"):
        with_values(Project(), {"shopping.found": tuple(map(one, "abcd"))})
