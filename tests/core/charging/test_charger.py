"""The charger to take: volts, amps and what sets them, slips, and where a charge stops."""

from typing import Any

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import BodyWarmth, Groups
from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.charging.charger import (
    ChargeSetting,
    right_charger,
    slip_of,
    slips,
    stops_share,
    swapped_digits,
)
from lumvak.core.charging.to_full import FullSetting, charge_run
from lumvak.core.figures.figure import Figure, typed
from lumvak.core.spelling import spoken
from tests.straight import straight_cell


def figure(key: str, value: float, label: str = "") -> Figure:
    return typed(key, label or key, value, "A")


def setting_of(
    catalogue: Catalogue,
    cell: str = "ostrel-21-48",
    series: int = 13,
    parallel: int = 4,
    board: Board | None = None,
    ceiling_v: float | None = None,
) -> ChargeSetting:
    """A pack as a charger sees it."""
    part = catalogue.cells[cell]
    chemistry = catalogue.chemistry_of(part)
    seen = behaviour_of(part, chemistry)
    ceiling = part.voltage_full_v if ceiling_v is None else ceiling_v
    most = part.charge_max_a or part.charge_standard_a
    group = Groups(
        seen,
        np.array([parallel * part.capacity_typical_ah]),
        np.array([seen.steady_ohm / parallel]),
        np.zeros(1),
        0.02 / series,
    )
    if board is None:
        family = chemistry.family
        near = [
            item
            for item in catalogue.boards.values()
            if item.family == family and item.kind == "full"
        ]
        board = min(near, key=lambda item: abs(item.series - series))
        board = replace(board, series=series)
    return ChargeSetting(
        part,
        chemistry.family,
        seen,
        series,
        parallel,
        ceiling,
        figure("charge.voltage_v", series * ceiling),
        figure("charge.cells_a", parallel * part.charge_standard_a),
        figure("charge.most_a", parallel * most),
        (figure("board.charge_a", board.charge_a, "BMS lets in"),),
        group,
        board,
        ceiling,
    )


def without_cut_off(catalogue: Catalogue, how: str, series: int = 13) -> Any:
    """A pack with no board, with one that only balances, or one that cuts off too late."""
    from msgspec.structs import replace

    setting = setting_of(catalogue, series=series)
    assert setting.board is not None
    if how == "none":
        return replace(setting, board=None)
    changes = {"kind": "balancer"} if how == "balancer" else {"over_voltage_v": 4.4}
    return replace(setting, board=replace(setting.board, **changes))


def test_volts_are_count_times_ceiling_and_amps_the_lowest_limit(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    found = right_charger(setting)
    assert found.volts.number == pytest.approx(54.6)
    assert found.amps.number == min(setting.by_cells.number, setting.limits[0].number)
    assert found.end.number == pytest.approx(found.amps.number / 10.0)
    weak = replace(setting, limits=(figure("charging.socket_a", 3.0),))
    assert right_charger(weak).amps.number == 3.0
    assert spoken(right_charger(weak).said) == "socket"
    assert spoken(right_charger(replace(setting, limits=())).said) == "cells"


def test_slips_are_known_by_their_volts(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    found = {slip.code: slip.volts for slip in slips(setting)}
    assert found["nominal"] == pytest.approx(13 * 3.6)
    assert found["all-cells"] == pytest.approx(52 * 4.2)
    assert found["one-more"] == pytest.approx(58.8)
    assert found["as-phosphate"] == pytest.approx(13 * 3.65)
    near = slip_of(46.8, slips(setting))
    assert near is not None and near.code == "nominal"
    assert slip_of(50.0, slips(setting)) is None
    assert swapped_digits(56.4, 54.6)
    assert not swapped_digits(54.6, 54.6)
    assert not swapped_digits(64.5, 54.6)


def test_no_slip_gives_the_right_volts(catalogue: Catalogue) -> None:
    """One cell in parallel: all cells are those in series, and that is no slip."""
    for parallel in (1, 2):
        setting = setting_of(catalogue, parallel=parallel)
        for slip in slips(setting):
            assert abs(slip.volts / setting.volts.number - 1.0) > 0.005


@pytest.mark.parametrize(("hold", "end"), [(54.6, 0.3), (53.3, 0.3), (52.0, 0.1), (54.6, 1.0)])
def test_where_a_charge_stops_is_where_the_run_stops(
    catalogue: Catalogue, hold: float, end: float
) -> None:
    setting = setting_of(catalogue)
    share, volts, by = stops_share(setting, hold, end, 3.0)
    groups = replace(
        setting.group,
        ah=np.full(13, setting.group_ah),
        ohm=np.full(13, setting.group.ohm[0]),
        leak_a=np.zeros(13),
        path_ohm=0.02,
    )
    use = FullSetting(3.0, hold, end, None, setting.over_v, None, 2.0)
    run = charge_run(groups, np.full(13, 0.5), use, BodyWarmth(1.0, 1e7, 25.0))
    assert by == "end current"
    assert run.ended_by == "charger"
    assert share == pytest.approx(run.stops_share, abs=2e-4)
    assert volts == pytest.approx(hold / 13)


def test_the_board_stops_a_charge_that_goes_too_high(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    share, volts, by = stops_share(setting, 58.8, 0.3, 3.0)
    groups = replace(
        setting.group,
        ah=np.full(13, setting.group_ah),
        ohm=np.full(13, setting.group.ohm[0]),
        leak_a=np.zeros(13),
        path_ohm=0.02,
    )
    use = FullSetting(3.0, 58.8, 0.3, None, setting.over_v, None, 2.0)
    run = charge_run(groups, np.full(13, 0.5), use, BodyWarmth(1.0, 1e7, 25.0))
    assert by == "board" and run.ended_by == "board"
    assert volts == setting.over_v
    assert share == pytest.approx(run.stops_share, abs=3e-4)


def test_a_straight_cell_stops_where_the_line_says(catalogue: Catalogue) -> None:
    setting = setting_of(catalogue)
    straight = replace(
        setting,
        behaviour=straight_cell(),
        group=Groups(straight_cell(), np.array([2.5]), np.array([0.04]), np.zeros(1)),
    )
    share, _, _ = stops_share(straight, 13 * 4.12, 0.125, 1.25)
    assert share == pytest.approx((4.12 - 0.125 * 0.04 - 3.0) / 1.2, rel=1e-6)
