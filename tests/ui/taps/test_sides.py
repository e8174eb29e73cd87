"""Both sides of the pack with its balance leads."""

from lumvak.core.evaluation import Evaluation, guides_in_hand
from lumvak.ui.stages.taps.sides import sides_of


def test_the_lead_in_hand_is_on_one_of_the_sides(evaluation: Evaluation) -> None:
    guides = guides_in_hand(evaluation)
    sides = sides_of(evaluation, guides, 2)
    assert [side.tap for side in sides] == [2, 2]
    assert sides[0].route is not None
    assert (sides[0].route == guides[2].route_mm).all()
    assert sides_of(evaluation, guides, None)[0].route is None
