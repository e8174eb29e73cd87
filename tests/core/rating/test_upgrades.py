"""What an upgrade buys."""

from itertools import pairwise

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import path_in_hand
from lumvak.core.joints.candidates import layers_name
from lumvak.core.rating.upgrades import Upgrade, upgrades
from lumvak.core.spelling import spoken


def test_upgrades_raise_the_weakest_again_and_again(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    evaluation = evaluate(demos["barrow"], catalogue)
    steps = upgrades(path_in_hand(evaluation))
    assert steps[0].link == "series-joints"
    # Two strips of 0.1 × 5 mm in 60 K/W welds: about 7 A each by the 20 K allowed.
    assert steps[0].from_a == pytest.approx(14.7, abs=0.2)
    for one, two in pairwise(steps):
        assert two.from_a == pytest.approx(one.to_a)
        assert one.cost is not None
        assert one.cost > 0.0
    # What the first step promises comes true when it is taken.
    taken = evaluate(with_values(evaluation.project, dict(steps[0].changes)), catalogue)
    assert taken.path.weakest is not None
    assert taken.path.weakest.continuous_a == pytest.approx(steps[0].to_a, rel=0.02)


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_a_step_is_taken_whole(demo: str, demos: dict[str, Project], catalogue: Catalogue) -> None:
    """Layers go with a strip, and a band typed for the old fuse goes with it."""
    for step in upgrades(path_in_hand(evaluate(demos[demo], catalogue))):
        changes = dict(step.changes)
        if step.link.endswith("-joints"):
            role = step.link.removesuffix("-joints")
            assert spoken(step.what).endswith(spoken(layers_name(changes[f"joints.{role}.layers"])))
        if "power.fuse" in changes:
            assert changes["power.fuse_band"] == ()
        if changes:
            with_values(demos[demo], changes)


def test_a_step_is_in_vain_where_another_link_is_as_weak() -> None:
    raised = Upgrade("fuse", "Fuse", 20.0, 25.0, "a larger one", 3.0)
    assert not raised.in_vain
    assert replace(raised, to_a=20.0).in_vain
    # What takes more than a part has no cost, and promises nothing.
    assert not replace(raised, to_a=20.0, cost=None).in_vain
