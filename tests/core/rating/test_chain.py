"""What the path holds for how long, what an upgrade buys, and a pack at rest."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.rating.chain import rating


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_a_shorter_time_never_lowers_what_a_link_holds(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    evaluation = evaluate(demos[demo], catalogue)
    for link in evaluation.path.links:
        held = [link.limit_a(seconds) for seconds in (9000.0, 100.0, 10.0, 1.0, 0.1)]
        assert held == sorted(held), link.key
        assert held[0] == pytest.approx(link.continuous_a, rel=0.02), link.key
    ratings = [rating(evaluation.path.links, seconds) for seconds in (None, 10.0, 1.0)]
    amps = [item.current_a for item in ratings if item is not None]
    assert len(amps) == 3
    assert amps == sorted(amps)
    assert ratings[0] is not None
    assert ratings[0].link is evaluation.path.weakest
