"""Charging the pack of an evaluation: simulated only where it is looked at."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.charge_log import LogRead, read_log
from lumvak.core.charging.cycles import Cycle, CycleSetting, cycles
from lumvak.core.charging.first_charge import FirstCharge, first_charge
from lumvak.core.charging.first_charge import with_band as plan_with_band
from lumvak.core.charging.groups_now import GroupsNow
from lumvak.core.charging.groups_run import Array, Warmth
from lumvak.core.charging.phase import COARSE, Equipment, Grain
from lumvak.core.charging.to_full import Charge, FullSetting, charge_run, with_band
from lumvak.core.charging.topic import floor_of
from lumvak.core.charging.verdict import end_current
from lumvak.core.evaluation import Evaluation

# Cycles are looked at in a warm room.
ROOM_C = 25.0
# Where nothing ends a charge it is followed to so many times the full voltage.
UNENDED_V, UNENDED_OVER = 10.0, 1.1


def full_setting(seen: Evaluation, charger: Charger | None = None) -> FullSetting:
    """How the pack of an evaluation is charged with a charger, the one in force as a rule."""
    setting, cell = seen.charging.setting, seen.choice.cell
    charger = charger or seen.charging.charger
    over, over_is = setting.over_v, "board"
    if seen.project.charging.at == "bottom" and setting.ceiling_v < (over or UNENDED_V):
        over, over_is = setting.ceiling_v, "first full group"
    if over is None and charger.kind == "nickel":
        # Nothing ends it: it is followed until cells are far over what they bear.
        over, over_is = UNENDED_OVER * cell.voltage_full_v, "nobody"
    sensor = setting.board is not None and setting.board.sensors > 0
    return FullSetting(
        charger.amps, None if charger.kind == "nickel" else charger.volts, end_current(charger),
        charger.timer_h, over, cell.charge_max_c if sensor else None, cell.voltage_empty_v,
        charger.kind != "supply", over_is,
    )  # fmt: skip


def cell_c(seen: Evaluation) -> float:
    """How warm cells are in degC when they are charged: as said, else as the air at its coldest."""
    said = seen.project.charging.cell_c
    return seen.demand.coldest.number if said is None else said


def charge_warmth(seen: Evaluation) -> Warmth:
    """The pack of an evaluation as a warm body while it is charged."""
    pack = seen.run.pack
    return Warmth(pack.kelvin_per_watt, pack.joule_per_kelvin, cell_c(seen))


def begun_at(now: GroupsNow, share: float) -> Array:
    """Charges of groups (n,) at a mean of ``share``, each off from it as it is now."""
    mean = float(now.charge_ah.sum() / now.groups.ah.sum())
    return np.clip(share + now.share - mean, 0.0, 1.0)


def charge_in_hand(
    seen: Evaluation, charger: Charger | None = None, share: float | None = None,
    band: bool = False,
) -> Charge:  # fmt: skip
    """A charge of the pack of an evaluation from ``share`` on; with its band where asked for."""
    now, setting = seen.charging.now, full_setting(seen, charger)
    begin = begun_at(now, seen.project.charging.start if share is None else share)
    if seen.project.charging.at == "bottom":
        begin = np.minimum(float((begin * now.groups.ah).min()) / now.groups.ah, 1.0)
    warmth, bleed = charge_warmth(seen), seen.charging.evening.bleed
    found = charge_run(now.groups, begin, setting, warmth, bleed)
    if not band:
        return found
    spreads = seen.project.run
    return with_band(found, now.groups, begin, setting, warmth, spreads.capacity_spread,
                     spreads.resistance_spread, bleed)  # fmt: skip


def cycle_setting(seen: Evaluation) -> CycleSetting:
    """How the pack of an evaluation is used from charge to charge."""
    setting, charging = full_setting(seen), seen.project.charging
    board = seen.charging.setting.board
    topic = seen.charging.setting
    hold = topic.volts.number if setting.hold_v is None else setting.hold_v
    floor = floor_of(charging, seen.choice.cell)
    return CycleSetting(
        setting.amps, hold, setting.end_a, setting.over_v,
        None if board is None else board.over_voltage_release_v, charging.stays_h,
        seen.pack.current.number, floor, 24.0 * charging.between_days,
    )  # fmt: skip


def cycles_in_hand(
    seen: Evaluation, count: int | None = None, grain: Grain = COARSE, share: Array | None = None,
    report: Callable[[float], bool] | None = None,
) -> tuple[Cycle, ...]:  # fmt: skip
    """Cycles of the pack of an evaluation from where its groups stand, or from ``share`` (n,).

    ``report`` is told the share that is done and returns whether to go on.
    """
    charging, now = seen.project.charging, seen.charging.now
    evening = seen.charging.evening
    share = now.share if share is None else share
    if charging.at == "bottom":
        share = np.zeros(now.count)
    having = Equipment(evening.bleed, evening.active, grain=grain)
    many = charging.cycles if count is None else count
    return cycles(now.groups, share, ROOM_C, cycle_setting(seen), having, many, report)


def plan_in_hand(seen: Evaluation) -> FirstCharge:
    """The first charge of the pack of an evaluation, in stages."""
    now = seen.charging.now
    begin = begun_at(now, seen.project.charging.start)
    given = (now.groups, begin, full_setting(seen), charge_warmth(seen),
             seen.charging.setting.ceiling_v)  # fmt: skip
    spreads = seen.project.run
    return plan_with_band(
        first_charge(*given), *given, spreads.capacity_spread, spreads.resistance_spread
    )


def log_in_hand(seen: Evaluation) -> LogRead:
    """The log of a charge of the pack of an evaluation, counted and compared."""
    project = seen.project
    return read_log(
        project.charging.log, seen.charging.now.groups, project.charging.start, cell_c(seen),
        project.run.capacity_spread, project.run.resistance_spread,
    )  # fmt: skip
