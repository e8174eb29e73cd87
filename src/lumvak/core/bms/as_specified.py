"""A BMS made from the tight sides of its windows, where none at hand serves (methods 41)."""

from __future__ import annotations

from lumvak.core.bms.settings import OVER_V, QUICK_S, RELEASE_V, UNDER_RELEASE_V, UNDER_V
from lumvak.core.bms.verdicts import (
    BARE_BOARD_K_PER_W,
    DRIFT,
    LONGEST_BLEED_H,
    SWITCH_RISE_K,
    BoardSetting,
)
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.figures.figure import AS_SPECIFIED

# A slow level is told by its amps for so long; a short circuit ends within the last.
SLOW_S, SHORT_S = 10.0, 0.0005
# No BMS of the size of the pack has less resistance than this share of what its heat allows.
OF_ALLOWED, LEAST_OHM, QUIESCENT_A = 0.25, 0.2e-3, 1e-4


def board_as_specified(setting: BoardSetting) -> Board:
    """The least BMS that does: each figure on the tight side of its window, assumed."""
    draw, cell = setting.draw, setting.cell
    load = draw.continuous_a
    slow = max(load, draw.most_a(SLOW_S))
    if draw.peak_s >= SLOW_S:
        slow = max(slow, draw.peak_a)
    quick = max(slow, draw.most_a(QUICK_S), draw.peak_a)
    last = max(quick, draw.most_a(SHORT_S))
    group_ah = cell.capacity_typical_ah * setting.parallel
    allowed = SWITCH_RISE_K / BARE_BOARD_K_PER_W / load**2
    return Board(
        id=AS_SPECIFIED_ID,
        name=AS_SPECIFIED,
        family=setting.family,
        series=setting.series,
        continuous_a=load,
        stages=(
            BoardStage(current_a=slow, delay_s=SLOW_S),
            BoardStage(current_a=quick, delay_s=QUICK_S),
            BoardStage(current_a=last, delay_s=SHORT_S),
        ),
        ports=1,
        charge_a=setting.charge_a or cell.charge_standard_a * setting.parallel,
        over_voltage_v=cell.voltage_full_v + OVER_V,
        over_voltage_release_v=cell.voltage_full_v + OVER_V - RELEASE_V,
        under_voltage_v=cell.voltage_empty_v + UNDER_V,
        under_voltage_release_v=cell.voltage_empty_v + UNDER_V + UNDER_RELEASE_V,
        balance_a=DRIFT * group_ah / LONGEST_BLEED_H,
        sensors=1,
        telemetry="wire" if setting.protection.telemetry else "none",
        resistance_ohm=max(OF_ALLOWED * allowed, LEAST_OHM),
        quiescent_a=QUIESCENT_A,
        mass_g=0.0,
        price=0.0,
    )
