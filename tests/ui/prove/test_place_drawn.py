"""Where the probes go, drawn on the pack."""

import pytest

from lumvak.ui.session import Session
from lumvak.ui.stages.prove.place_drawn import sides_of_place


def test_a_group_and_a_joint_are_marked_on_both_sides(session: Session) -> None:
    layout = session.evaluation.laid_out.joined_pack.layout
    (_, one), (_, other) = sides_of_place(session.evaluation, "group:2")
    assert one.side != other.side and one.chosen_cells == other.chosen_cells
    assert {int(layout.group[cell]) for cell in one.chosen_cells} == {1}
    _, joint = sides_of_place(session.evaluation, "joint:2")[0]
    assert joint.marked and joint.pieces is not None
    for piece in joint.marked:
        ends = joint.pieces.a[piece] // 2, joint.pieces.b[piece] // 2
        assert sorted(int(layout.group[end]) for end in ends) == [1, 2]
    _, ends = sides_of_place(session.evaluation, "pack")[0]
    assert {int(layout.group[cell]) for cell in ends.chosen_cells} == {0, layout.series - 1}


@pytest.mark.parametrize("place", ["terminals", "case", "fuse", "charger", "air"])
def test_what_does_not_lie_on_the_cells_is_not_drawn_there(session: Session, place: str) -> None:
    assert sides_of_place(session.evaluation, place) == ()
