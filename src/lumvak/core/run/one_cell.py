"""One cell discharged from full at a steady current, as its data sheet draws it."""

from __future__ import annotations

import numpy as np

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.run.discharge import Run, discharge
from lumvak.core.run.model import NO_STOP_V, ModelledPack, RunStep

STEPS_A_CURVE = 160
ROOM_C = 25.0
# The current at which sheets rate a capacity, as a share of it.
RATED_SHARE = 0.2
# A held temperature: a lump so heavy that nothing warms it.
HELD_K_PER_W, HELD_J_PER_K = 1e-9, 1e12
HOTTEST_C, LONGEST_S = 150.0, 1e9


def one_cell(cell: Cell, behaviour: Behaviour, current_a: float, celsius: float) -> Run:
    """A discharge from full to the empty voltage at a held cell temperature (methods 16).

    Of the typical capacity, or of what the drawn curves hold.
    """
    capacity_ah = cell.capacity_typical_ah * behaviour.capacity_scale
    pack = ModelledPack(
        cell,
        behaviour,
        series=1,
        parallel=1,
        capacity_ah=capacity_ah,
        path_ohm=0.0,
        heat_path_ohm=0.0,
        stop_v=NO_STOP_V,
        ambient_c=celsius,
        limit_c=HOTTEST_C,
        kelvin_per_watt=HELD_K_PER_W,
        joule_per_kelvin=HELD_J_PER_K,
    )
    step_s = capacity_ah / current_a * 3600.0 / STEPS_A_CURVE
    return discharge(pack, [RunStep(current_a, None, LONGEST_S)], step_s)


def given_ah(
    cell: Cell, behaviour: Behaviour, current_a: float | None, to_v: float | None
) -> float:
    """What a cell gives in Ah from full at 25 degC, over what it gives as its sheet rates it.

    The sheet's rating is taken as a fifth of the capacity in A down to the empty voltage; what is
    ``None`` is as there. The typical capacity, times the share that the model gives (methods 16).
    """
    rated_a = RATED_SHARE * cell.capacity_typical_ah
    asked_a = rated_a if current_a is None else current_a
    asked_v = cell.voltage_empty_v if to_v is None else to_v
    if asked_a == rated_a and asked_v == cell.voltage_empty_v:
        return cell.capacity_typical_ah
    run, rated = (one_cell(cell, behaviour, amps, ROOM_C) for amps in (asked_a, rated_a))
    to = float(np.interp(-asked_v, -run.volts, np.arange(len(run.volts))))
    hours = float(np.interp(to, np.arange(len(run.volts)), run.time_s)) / 3600.0
    return cell.capacity_typical_ah * asked_a * hours / rated.taken_ah
