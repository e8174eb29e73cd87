"""Wires of every brick's plug, the adapter to the board, and where sensors go."""

import numpy as np
import pytest

from lumvak.core.document.taps import BalanceLeads, TapModule
from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken
from lumvak.core.taps.guide import guide_of
from lumvak.core.taps.harness import Harness, harness_of, modules_of, sensors_of


def made(evaluation: Evaluation, *groups: int) -> Harness:
    modules = tuple(
        TapModule(name=f"brick {at}", groups=count) for at, count in enumerate(groups, 1)
    )
    leads = BalanceLeads(modules=modules)
    layout = evaluation.laid_out.joined_pack.layout
    guides = guide_of(
        leads, evaluation.laid_out.taps, layout, None, evaluation.balance.check.level_v
    )
    return harness_of(leads, guides, layout, None, None)


def test_without_bricks_the_plug_is_the_boards(evaluation: Evaluation) -> None:
    harness = made(evaluation)
    series = evaluation.sized.choice.series
    assert [item.name for item in harness.modules] == ["pack"]
    assert [wire.joint for wire in harness.wires] == list(range(series + 1))
    assert [wire.board_pin for wire in harness.wires] == [f"B{at}" for at in range(series + 1)]
    # What does not add up to the pack is one plug too.
    assert len(made(evaluation, 3, 4).modules) == 1


def test_bricks_share_a_joint_and_the_board_takes_it_once(evaluation: Evaluation) -> None:
    series = evaluation.sized.choice.series
    groups = (4, 3, series - 11, 4)
    harness = made(evaluation, *groups)
    assert [(item.first, item.last) for item in harness.modules] == [
        (0, 4),
        (4, 7),
        (7, series - 4),
        (series - 4, series),
    ]
    assert len(harness.wires) == series + 4
    assert [wire.number for wire in harness.wires] == list(range(1, series + 5))
    pins = [wire.board_pin for wire in harness.wires if wire.board_pin]
    assert pins == [f"B{at}" for at in range(series + 1)]
    silent = [(wire.module, wire.pin, wire.joint) for wire in harness.wires if not wire.board_pin]
    assert silent == [(1, 1, 4), (2, 1, 7), (3, 1, series - 4)]
    layout = evaluation.laid_out.joined_pack.layout
    for module in harness.modules:
        left, top, wide, high = module.box_mm
        here = (layout.group >= module.first) & (layout.group < module.last)
        assert (layout.x_mm[here] > left).all()
        assert (layout.y_mm[here] < top + high).all()
        assert wide > 0.0


def test_sensors_go_where_it_is_warm_closed_in_and_far(evaluation: Evaluation) -> None:
    layout = evaluation.laid_out.joined_pack.layout
    assert sensors_of(layout, None, 0) == ()
    first = sensors_of(layout, None, 1)[0]
    at = (
        layout.name.index(first.cell)
        if isinstance(layout.name, list | tuple)
        else int(np.flatnonzero(np.array(layout.name) == first.cell)[0])
    )
    # With even currents it is a cell that has as many about it as any.
    places = np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)
    pitch = 2.0 * float(layout.half_mm[:, :2].min()) + layout.gap_mm
    about = (np.sqrt(((places[:, None] - places[None]) ** 2).sum(axis=2)) <= 1.6 * pitch).sum(1)
    assert about[at] == about.max()
    currents = np.ones(len(layout))
    currents[-1] = 9.0
    hot = sensors_of(layout, currents, 3)
    assert len({item.cell for item in hot}) == 3
    assert "of the usual heat" in spoken(hot[0].why)
    assert spoken(hot[1].why).startswith("worst cooled")
    assert spoken(hot[2].why).startswith("farthest")


def test_modules_that_do_not_fit_are_one(evaluation: Evaluation) -> None:
    one = modules_of((TapModule(name="a", groups=2),), evaluation.laid_out.joined_pack.layout)
    assert [item.name for item in one] == ["pack"]
    assert one[0].last == evaluation.sized.choice.series
    assert one[0].box_mm[2] == pytest.approx(
        float(
            (
                evaluation.laid_out.joined_pack.layout.x_mm
                + evaluation.laid_out.joined_pack.layout.half_mm[:, 0]
            ).max()
            - (
                evaluation.laid_out.joined_pack.layout.x_mm
                - evaluation.laid_out.joined_pack.layout.half_mm[:, 0]
            ).min()
        )
    )


def test_a_brick_of_two_plugs_shares_its_wires_out(evaluation: Evaluation) -> None:
    series = evaluation.sized.choice.series
    modules = (TapModule(name="a", groups=5, plugs=2), TapModule(name="b", groups=series - 5))
    leads = BalanceLeads(modules=modules)
    layout = evaluation.laid_out.joined_pack.layout
    guides = guide_of(
        leads, evaluation.laid_out.taps, layout, None, evaluation.balance.check.level_v
    )
    wires = harness_of(leads, guides, layout, None, None).wires
    assert [(wire.plug, wire.pin) for wire in wires[:6]] == [
        (1, 1),
        (1, 2),
        (1, 3),
        (2, 1),
        (2, 2),
        (2, 3),
    ]
    assert {wire.plug for wire in wires[6:]} == {1}
