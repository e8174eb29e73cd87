"""A discharge in time: volts, amps, charge and temperature until something ends it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumvak.core.run.model import End, Model, ModelledPack, State, Step
from lumvak.core.run.whole_steps import pieces_of, whole_steps

Array = NDArray[np.float64]
LONGEST_S = 1000.0 * 3600.0


@dataclass(frozen=True, slots=True)
class Run:
    """A discharge: its course as columns (n,), what ended it, and where the energy went.

    Charge in Ah and energies in Wh are those of the whole pack; ``emf_wh`` is what the cells gave
    at their rest voltage, ``stored_wh`` what is left in their slow branch.
    """

    time_s: Array
    volts: Array
    amps: Array
    charge: Array
    temperature_c: Array
    ended: End
    taken_ah: float
    delivered_wh: float
    emf_wh: float
    cell_loss_wh: float
    path_loss_wh: float
    stored_wh: float

    @property
    def hours(self) -> float:
        """How long it ran, in h."""
        return float(self.time_s[-1]) / 3600.0


def discharge(
    pack: ModelledPack,
    duty: Sequence[Step],
    step_s: float,
    charge: float = 1.0,
    longest_s: float = LONGEST_S,
) -> Run:
    """Repeat ``duty`` from ``charge`` until something ends it (methods 16).

    One fast resistance and one slow branch a cell, both following charge and temperature; one warm
    lump. Midpoint rule with steps of at most ``step_s``; the last step is cut where the limit is
    met. Raises ValueError for a duty without time.
    """
    if not duty or any(step.seconds <= 0.0 for step in duty) or step_s <= 0.0:
        raise ValueError("a duty wants steps of more than 0 s")
    model = Model(pack)
    state = model.start(charge)
    first = model.current(state, duty[0])
    volts = math.nan if math.isnan(first) else model.volts(state, first)[0]
    course = [(0.0, volts, first, charge, pack.ambient_c)]
    ended: End | None = None
    place, done = 0, 0
    while ended is None:
        state, place, done = whole_steps(model, state, duty, place, done, step_s, longest_s, course)
        step = duty[place % len(duty)]
        pieces, size = pieces_of(step, step_s)
        span = min(size, longest_s - course[-1][0])
        if span <= 0.0:
            ended = "time is up"
            break
        state, span, ended, current, terminal = _one_step(model, state, step, span)
        course.append((course[-1][0] + span, terminal, current, state.charge, state.celsius))
        place, done = (place, done + 1) if done + 1 < pieces else (place + 1, 0)
    times, volts_n, amps_n, charges, celsius = np.array(course).T
    cells = pack.series * pack.parallel
    return Run(
        time_s=times,
        volts=volts_n,
        amps=amps_n,
        charge=charges,
        temperature_c=celsius,
        ended=ended,
        taken_ah=(charge - state.charge) * pack.capacity_ah,
        delivered_wh=state.delivered_j / 3600.0,
        emf_wh=state.emf_j / 3600.0,
        cell_loss_wh=state.cell_loss_j / 3600.0,
        path_loss_wh=state.path_loss_j / 3600.0,
        stored_wh=0.5 * model.farad * state.slow_v**2 * cells / 3600.0,
    )


def _one_step(
    model: Model, state: State, step: Step, span: float
) -> tuple[State, float, End | None, float, float]:
    """Advance by ``span`` seconds, or to where a limit is met within it.

    Returns the state, the seconds, what ended it, and amps and terminal volts there.
    """
    fresh, held = model.midway(state, step, span)
    end, amps, volts = _end_of(model, fresh, held, step)
    if end is None:
        return fresh, span, None, amps, volts
    low, high, reached = 0.0, span, (state, 0.0)
    for _ in range(30):
        middle = 0.5 * (low + high)
        tried, held = model.midway(state, step, middle)
        if _end_of(model, tried, held, step)[0] is None:
            low, reached = middle, (tried, middle)
        else:
            high = middle
    current = model.current(reached[0], step)
    volts = math.nan if math.isnan(current) else model.volts(reached[0], current)[0]
    return *reached, end, current, volts


def _end_of(model: Model, state: State, held: float, step: Step) -> tuple[End | None, float, float]:
    """What ends the run in this state, if anything does, with its amps and terminal volts."""
    amps = model.current(state, step)
    if math.isnan(held) or math.isnan(amps):
        return "power not to be had", amps, math.nan
    volts, cell_v = model.volts(state, amps)
    return model.verdict(state, volts, cell_v), amps, volts
