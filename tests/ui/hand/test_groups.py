"""Groups by every method, and what is dealt taken."""

from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import groups_of


def test_methods_stand_side_by_side_and_the_best_is_taken(qtbot: QtBot, roller: Window) -> None:
    view = groups_of(roller)
    view.deal()
    qtbot.waitUntil(lambda: view.found is not None, timeout=10_000)
    names = [row.cells[0] for row in view.methods.rows_model.rows]
    assert names == ["as they come", "best with worst", "serpentine", "optimised"]
    assert "86 good cells for 12 groups of 7" in view.says.text()
    view.take()
    evaluation = roller.session.evaluation
    assert len(evaluation.sized.in_hand.by_place) == 84
    assert evaluation.figures["hand.spread"].number < 1e-4
    drawn = view.views[0].drawn
    assert drawn is not None
    assert sum(bool(label) for label in drawn.labels) == 84
    # Another reading makes what was dealt stale.
    roller.session.edit({"hand.by": "resistance"})
    assert view.found is None
    view.deal()
    qtbot.waitUntil(lambda: view.found is not None, timeout=10_000)
    assert "what the pack delivers is not known" in view.says.text()
    roller.session.edit({"hand.by": "voltage"})
    view.deal()
    assert view.found is not None
    assert view.found.compared is None
    assert "a voltage tells charge and not size" in view.says.text()
    roller.session.edit({"pack.parallel": 8, "hand.by": "capacity"})
    view.deal()
    assert "10 are missing" in roller.notice.text.text()
    forget(roller)


def test_what_binds_the_dealing_is_typed_and_kept(qtbot: QtBot, roller: Window) -> None:
    view = groups_of(roller)
    view.pins.setText("57=g3c2")
    view.pins.editingFinished.emit()
    view.apart.setText("12,15")
    view.apart.editingFinished.emit()
    hand = roller.session.project.hand
    assert (hand.pins[0].number, hand.pins[0].cell, hand.apart) == (57, "g3c2", ((12, 15),))
    view.deal()
    qtbot.waitUntil(lambda: view.found is not None, timeout=10_000)
    assert view.found is not None
    assert 57 in view.found.groups[2]
    assert all({12, 15} - set(group) for group in view.found.groups)
    assert all(over is not None and over > 0.0 for over in view.found.over_fair.values())
    view.take()
    place = {item.number: item.cell for item in roller.session.project.hand.placed}
    assert place[57] == "g3c2"
    view.pins.setText("57=nowhere")
    view.pins.editingFinished.emit()
    assert "such as 57=g3c2" in view.problem.text()
    assert roller.session.project.hand.pins[0].cell == "g3c2"
    forget(roller)
