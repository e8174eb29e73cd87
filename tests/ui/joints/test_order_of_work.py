"""The order of the work: steps, what is covered, and the volts that are bare."""

from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.ui.session import Session
from lumvak.ui.stages.joints.making import MakingView


def test_a_step_shows_what_lies_and_what_is_covered(making: MakingView, session: Session) -> None:
    making.show_page("order")
    rows = making.order.steps.rows_model.rows
    assert [row.cells[0] for row in rows if row.cells[0]] == [
        str(place + 1) for place in range(len(rows) // 2)
    ]
    making.order.steps.picked.emit(4)
    assert making.order.step == 4
    drawn = making.side_b.drawn
    assert drawn is not None
    assert drawn.covered == frozenset(range(50))
    assert drawn.absent
    last = len(rows) // 2 - 1
    making.order.steps.picked.emit(last)
    drawn = making.side_a.drawn
    assert drawn is not None and not drawn.absent
    assert {lead.pole for lead in drawn.leads} == {"-", "+"}


def test_volts_over_the_touch_safe_ones_are_marked(making: MakingView, session: Session) -> None:
    making.show_page("order")
    marked = [row for row in making.order.steps.rows_model.rows if row.marks]
    full = session.evaluation.figures["pack.voltage_full_v"].number
    assert bool(marked) == (full > TOUCH_SAFE_V)
    session.edit({"need.max_voltage_v": 90.0, "pack.series": 20})
    marked = [row for row in making.order.steps.rows_model.rows if row.marks]
    assert marked and all(row.marks == {3: "amber"} for row in marked)


def test_the_step_in_hand_is_kept_within_fewer_steps(making: MakingView, session: Session) -> None:
    making.show_page("order")
    last = len(making.order.steps.rows_model.rows) // 2 - 1
    making.order.steps.picked.emit(last)
    session.edit(
        {
            "pack.series": 1,
            "need.stop_voltage_v": 2.6,
            "need.rated_voltage_v": 3.6,
            "need.max_voltage_v": 4.3,
        }
    )
    rows = making.order.steps.rows_model.rows
    assert making.order.step == len(rows) // 2 - 1 < last
