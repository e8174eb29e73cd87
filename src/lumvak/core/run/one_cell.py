"""One cell discharged from full at a steady current, as its data sheet draws it."""

from __future__ import annotations

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.run.discharge import Run, discharge
from lumvak.core.run.model import ModelledPack, Step

STEPS_A_CURVE = 160
# A held temperature: a lump so heavy that nothing warms it.
HELD_K_PER_W, HELD_J_PER_K = 1e-9, 1e12
NO_STOP_V, HOTTEST_C, LONGEST_S = 0.01, 150.0, 1e9


def one_cell(cell: Cell, behaviour: Behaviour, current_a: float, celsius: float) -> Run:
    """A discharge from full to the empty voltage at a held cell temperature (methods 16).

    Of the typical capacity, or of what the drawn curves hold.
    """
    capacity_ah = cell.capacity_typical_ah * behaviour.capacity_scale
    pack = ModelledPack(
        cell, behaviour, 1, 1, capacity_ah, 0.0, 0.0, NO_STOP_V, celsius, HOTTEST_C,
        HELD_K_PER_W, HELD_J_PER_K,
    )  # fmt: skip
    step_s = capacity_ah / current_a * 3600.0 / STEPS_A_CURVE
    return discharge(pack, [Step(current_a, None, LONGEST_S)], step_s)
