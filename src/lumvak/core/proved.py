"""The pack that is to be proven, from what an evaluation worked out (methods 42)."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from lumvak.core.charging.charger import END_SHARE
from lumvak.core.conductors.lead_wire import outer_mm
from lumvak.core.conductors.strip_and_wire import (
    lead_film,
    strip_time_constant_s,
    wire_time_constant_s,
)
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.bench_pack import BenchPack, Spreads
from lumvak.core.proving.programme import cool_enough_a, full_over

# A lot differs by half of what lies between typical and least capacity, and so much more.
LOT_SHARE, LEAST_SHARE = 0.01, 0.97


def bench_pack_of(evaluation: Evaluation) -> BenchPack:
    """The pack of an evaluation as it is designed, when it is new.

    Its capacity is the typical one of its cells, or that of the weakest group where all its cells
    were measured. It is long, for it names all that a test may touch.
    """
    project, sized, power = evaluation.project, evaluation.sized, evaluation.power
    choice, cell, modelled = sized.choice, sized.choice.cell, evaluation.run.pack
    behaviour, settings, weakest = sized.sized_pack.behaviour, project.run, sized.in_hand.weakest_ah
    board, charger = power.board, evaluation.charging.charger
    typical = choice.parallel * cell.capacity_typical_ah * behaviour.capacity_scale
    least = cell.capacity_min_ah or LEAST_SHARE * cell.capacity_typical_ah
    spreads = Spreads(
        capacity=LOT_SHARE + 0.5 * (1.0 - least / cell.capacity_typical_ah),
        cell=settings.capacity_spread,
        resistance=settings.resistance_spread,
    )
    if weakest is not None:
        spreads = Spreads(capacity=0.01, cell=0.003, resistance=settings.resistance_spread)
    opens_v = board.under_voltage_v if board is not None and board.protects else 0.0
    wire, leads = sized.wire, project.leads
    film = lead_film(leads.bundled)
    fuse, connector = power.fuse.part, power.connector.part
    joints = max(choice.series - 1, 0)
    start = power.start_of("fast", power.surge.part is not None)
    pack = BenchPack(
        cell=cell,
        behaviour=behaviour,
        series=choice.series,
        parallel=choice.parallel,
        group_ah=typical if weakest is None else weakest.number,
        joint_ohm=np.full(joints, modelled.heat_path_ohm / max(joints, 1)),
        parts_ohm=np.array(
            [
                0.0 if fuse is None else fuse.resistance_mohm * 1e-3,
                wire.ohm.number,
                0.0 if board is None else board.resistance_ohm,
                0.0 if connector is None else connector.mated_mohm * 1e-3,
            ]
        ),
        kelvin_per_watt=modelled.kelvin_per_watt,
        joule_per_kelvin=modelled.joule_per_kelvin,
        strip_k=_strip_k(evaluation),
        strip_s=strip_time_constant_s(evaluation.laid_out.series.chosen.section),
        leads_k=wire.rise.number,
        leads_s=wire_time_constant_s(
            wire.area.number, leads.outer_mm or outer_mm(wire.area.number), film
        ),
        ambient_c=sized.demand.ambient.number,
        limit_c=modelled.limit_c,
        load_a=sized.pack.current.number,
        discharge_a=sized.pack.current.number,
        full_v=sized.pack.full.number,
        stop_v=modelled.stop_v,
        floor_v=max(cell.voltage_empty_v, opens_v),
        charge_a=evaluation.charging.right.amps.number,
        charger_v=charger.volts,
        charger_end_a=charger.end_a or END_SHARE * charger.amps,
        surge_a=0.0 if start is None else start.peak_a,
        board=board,
        spreads=spreads,
    )
    pack = replace(pack, full_over=full_over(pack))
    return replace(pack, discharge_a=cool_enough_a(pack))


def limits_of(evaluation: Evaluation) -> dict[str, float]:
    """What each link of the path carries continuously in A, by its key."""
    return {link.key: link.continuous_a for link in evaluation.path.links}


def _strip_k(evaluation: Evaluation) -> float:
    """By how much the busiest series connection rises over the cells at the continuous current."""
    joined = evaluation.laid_out.joined_pack
    piece = joined.busiest("series")
    if piece is None or joined.carried is None:
        return evaluation.laid_out.series.chosen.rise_k
    rise = float(joined.carried.rise_k[piece])
    return rise if math.isfinite(rise) else 100.0
