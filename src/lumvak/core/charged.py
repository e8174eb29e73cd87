"""The steps that judge the charger and look at the groups: a part of the evaluation."""

from __future__ import annotations

from msgspec.structs import replace

from lumvak.core.balancing.groups_now import UsualGroup, groups_now, month_loss_a
from lumvak.core.bms.settings import spread_of
from lumvak.core.charging.topic import ChargingTopic, charge_setting, charge_way, charging_topic
from lumvak.core.document.charging import ChargeLog, Charging
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Sized
from lumvak.core.power.figures import connector_figure
from lumvak.core.power.power_path import Power
from lumvak.core.run.figures import RunResult
from lumvak.core.steps import Steps
from lumvak.core.taps.watch import WatchTopic

NO_LOG = ChargeLog()


def but_the_log(charging: Charging) -> Charging:
    """Charging without what was read: a reading more changes nothing of how a pack is charged."""
    return replace(charging, log=NO_LOG)


def charging_of(
    project: Project, sized: Sized, power: Power, run: RunResult, watched: WatchTopic, steps: Steps
) -> ChargingTopic:
    """With what the pack is charged, and how its groups stand."""
    sized_pack, charging = sized.sized_pack, steps.settled(but_the_log, project.charging)
    choice, weakest = sized_pack.choice, sized.in_hand.weakest_ah
    leads, fuse = project.charge_leads, project.power.charge_fuse
    own_leads = leads.wire is not None or leads.area_mm2 is not None
    way = steps.settled(
        charge_way,
        power.board,
        power.charge_wire.limit if own_leads else None,
        leads_ohm=power.charge_wire.ohm.number,
        fuse_hold=None if fuse is None else power.charge_fuse_hold,
        connector=steps.settled(connector_figure, power.connector.part),
        socket_a=charging.socket_a,
        joints_ohm=run.pack.heat_path_ohm,
    )
    family = sized.parts.chemistry_of(choice.cell).family
    setting = steps.settled(
        charge_setting,
        choice.cell,
        family,
        behaviour=sized_pack.behaviour,
        series=choice.series,
        parallel=choice.parallel,
        ceiling_v=project.pack.ceiling_v,
        charge=sized.charge,
        full=sized.pack.full,
        way=way,
        board=power.board,
        weakest_ah=weakest,
        celsius=sized.demand.coldest.number if charging.cell_c is None else charging.cell_c,
    )
    usual = steps.settled(
        UsualGroup,
        setting.group_ah,
        float(setting.group.ohm[0]),
        month_loss_a(project.rest.month_loss, setting.group_ah),
        charging.start,
        way.path_ohm,
    )
    shown_v = tuple(watched.seen[-1].volts.tolist()) if watched.seen else ()
    now = steps.settled(
        groups_now,
        charging.groups,
        sized.in_hand.groups,
        shown_v,
        sized_pack.behaviour,
        choice.series,
        usual,
    )
    spread_v = steps.settled(spread_of, power.board, power.settings)
    return steps.of(
        charging_topic, charging, project.need, setting, now, spread_v, sized.pack.current.number
    )
