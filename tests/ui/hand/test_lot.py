"""What is said of a lot, typed and taken."""

from pytestqt.qtbot import QtBot

from lumvak.core.document.hand import Lot
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.lot import LotRows
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of


def type_into(qtbot: QtBot, rows: LotRows, name: str, text: str) -> None:
    entry = rows.entries[name]
    entry.selectAll()
    qtbot.keyClicks(entry, text)
    entry.editingFinished.emit()


def lots(window: Window) -> tuple[Lot, ...]:
    return window.session.project.hand.lots


def test_how_a_lot_was_measured_is_asked_for_and_kept(qtbot: QtBot, roller: Window) -> None:
    rows = readings_of(roller).rows
    assert not rows.more.isVisible()
    rows.how.click()
    assert rows.more.isVisible()
    for name, text in (
        ("pulse_s", "1 s"),
        ("pulse_charge", "50 %"),
        ("pulse_c", "18 °C"),
        ("capacity_a", "500 mA"),
        ("capacity_to_v", "3 V"),
        ("day", "2026-05-31"),
        ("word", "from a shed"),
    ):
        type_into(qtbot, rows, name, text)
    lot = lots(roller)[0]
    assert (lot.pulse_s, lot.pulse_charge, lot.pulse_c) == (1.0, 0.5, 18.0)
    assert (lot.capacity_a, lot.capacity_to_v) == (0.5, 3.0)
    assert (lot.day, lot.word) == ("2026-05-31", "from a shed")
    # A pulse is asked for where there is one.
    assert not rows.pulse.isVisible()
    rows.by.picked.emit("dc")
    assert rows.pulse.isVisible()
    roller.session.undo_stack.undo()
    assert not rows.pulse.isVisible()
    roller.session.undo_stack.undo()
    assert rows.entries["word"].text() == lots(roller)[0].word
    forget(roller)


def test_what_cannot_be_read_stays_until_another_lot_is_in_hand(
    qtbot: QtBot, roller: Window
) -> None:
    rows = readings_of(roller).rows
    before = lots(roller)
    for name, text in (("day", "last May"), ("capacity_a", "much"), ("pulse_charge", "250 %")):
        type_into(qtbot, rows, name, text)
        assert rows.problem.isVisibleTo(rows), name
        assert rows.entries[name].text() == text
        assert lots(roller) == before
    assert (
        rows.problem.text()
        == "Charge at the pulse: 2.5 was given; accepted: 1 or less (1 is 100 %)"
    )
    rows.another.click()
    assert rows.lot.name == lots(roller)[-1].name != before[0].name
    assert rows.entries["capacity_a"].text() == ""
    assert not rows.problem.isVisibleTo(rows)
    type_into(qtbot, rows, "capacity_a", "1 A")
    assert [lot.capacity_a for lot in lots(roller)] == [before[0].capacity_a, 1.0]
    # An emptied field is not said any more.
    type_into(qtbot, rows, "capacity_a", " ")
    assert lots(roller)[-1].capacity_a is None
    forget(roller)
