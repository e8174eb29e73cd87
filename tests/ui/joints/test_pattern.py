"""How it is laid: patterns of both sides, bridges over windows, strips over the edge."""

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.joints.pieces import FOLD
from lumvak.ui.stages.joints.joined_pack import OnTableView

TALL = {"kind": "box", "length_mm": 120.0, "width_mm": 120.0, "height_mm": 155.0}


def test_bridges_are_asked_for_where_a_plate_has_windows(view: OnTableView) -> None:
    session, how = view.session, view.how
    view.show_lower("how")
    assert not how.bridges.isVisibleTo(how)
    how.sides["a"].picked.emit("tabs")
    assert session.project.joints.side_a == "tabs"
    window = how.fields["window_mm"]
    assert how.bridges.isVisibleTo(how) and window.isVisibleTo(how)
    assert window.edit.placeholderText() == "10.5 mm"
    window.edit.setText("12")
    window.commit()
    assert session.project.joints.window_mm == 12.0
    names = [how.bridge.itemText(at) for at in range(how.bridge.count())]
    place = names.index("nickel 0.15 × 8 mm")
    how.bridge.activated.emit(place)
    assert session.project.joints.bridge == "nickel-0.15x8"
    assert session.evaluation.figures["joints.bridge_mohm"].number == pytest.approx(
        1e3 * 69.9e-9 * 6e-3 / (0.15e-3 * 8e-3) / 2, rel=1e-3
    )


def test_layers_are_joined_over_the_edge(qtbot: QtBot, view: OnTableView) -> None:
    session, how = view.session, view.how
    view.show_lower("how")
    assert not how.across.isVisibleTo(how)
    session.edit(
        {
            "arrangement.room": TALL,
            "arrangement.kept_free": (),
            "joints.series": {"part": "nickel-0.15x8"},
        }
    )
    assert how.across.isVisibleTo(how)
    how.over_edge.picked.emit("fold")
    pieces = session.evaluation.laid_out.joined_pack.pieces
    folded = np.flatnonzero(pieces.kind == FOLD)
    assert len(folded)
    # On the side and layer where it begins it is drawn up to the edge.
    seen = {int(piece) for part in (view.side_a, view.side_b) for piece in part.drawn.pieces_here}  # type: ignore[union-attr]
    assert seen & set(folded.tolist())
