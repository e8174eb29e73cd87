"""A discharge in time: volts, amps, charge and temperature until something ends it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.run.blocks import block
from lumvak.core.run.model import ENDS, End, Loads, Model, ModelledPack, RunCourse, RunStep, States

Array = NDArray[np.float64]
LONGEST_S = 1000.0 * 3600.0
SHORTEST_S = 1e-9
# Steps worked together; fewer where they take many rounds.
FIRST_TOGETHER, MOST_TOGETHER, LEAST_TOGETHER = 180, 2048, 8
# The end is looked for at so many places within its step; where it is none of the limits that can
# be told between two of them, so many times.
PLACES, LOOKS = 256, 2
ROUNDS = 2


class Run(Struct, frozen=True):
    """A discharge: its course as columns (n,), what ended it, and where the energy went.

    Charge in Ah and energies in Wh are those of the whole pack; ``emf_wh`` is what the cells gave
    at the rest voltage of their charge.
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

    @property
    def hours(self) -> float:
        """How long it ran, in h."""
        return float(self.time_s[-1]) / 3600.0


class _Duty:
    """A duty in pieces, and the piece that comes next."""

    def __init__(self, duty: Sequence[RunStep], step_s: float) -> None:
        seconds = np.array([step.seconds for step in duty])
        if not len(duty) or step_s <= 0.0 or seconds.min() <= 0.0:
            raise ValueError("a duty wants steps of more than 0 s")
        counts = np.maximum(np.ceil(seconds / step_s - 1e-9), 1.0).astype(int)
        seconds = seconds / counts
        if len(duty) == 1:
            # All its pieces are alike, however many: one stands for them.
            counts = np.ones(1, dtype=int)
        self.seconds = np.repeat(seconds, counts)
        # ``None`` becomes NaN.
        amps = np.array([step.current_a for step in duty], dtype=float)
        watts = np.array([step.power_w for step in duty], dtype=float)
        self._amps = np.repeat(np.nan_to_num(amps), counts)
        self._watts = None if np.isnan(watts).all() else np.repeat(watts, counts)
        self.place = 0

    def next(self, count: int, seconds: float) -> tuple[Loads, Array]:
        """The next pieces, at most ``count`` and ``seconds`` long, without taking them."""
        chosen = np.arange(self.place, self.place + count) % len(self.seconds)
        spans = self.seconds[chosen]
        past = np.cumsum(spans)
        if past[-1] > seconds:
            # The last one is cut where the time is up.
            whole = int(np.searchsorted(past, seconds))
            begun = past[whole - 1] if whole else 0.0
            spans = np.append(spans[:whole], seconds - begun)
            spans = spans[spans > SHORTEST_S]
            chosen = chosen[: len(spans)]
        return Loads(
            self._amps[chosen], None if self._watts is None else self._watts[chosen]
        ), spans


def discharge(
    pack: ModelledPack,
    duty: Sequence[RunStep],
    step_s: float,
    charge: float = 1.0,
    longest_s: float = LONGEST_S,
) -> Run:
    """Repeat ``duty`` from ``charge`` until something ends it (methods 16).

    A fast resistance, a slow branch and a lag of the surface a cell, all following charge and
    temperature; one warm lump. Midpoint rule with steps of at most ``step_s``; the last step is cut
    where the limit is met. Raises ValueError for a duty without time.
    """
    model, pieces = Model(pack), _Duty(duty, step_s)
    at = model.start(charge)
    now, sums, together = 0.0, np.zeros(3), FIRST_TOGETHER
    course = [_rows(model, at, pieces.next(1, math.inf)[0], np.zeros(1))[0]]
    ended: End | None = None
    while ended is None:
        loads, seconds = pieces.next(together, longest_s - now)
        if not len(seconds):
            ended = "time is up"
            break
        done = block(model, at, loads, model.spans(seconds))
        rows, margin = _rows(model, done.ends, loads, now + np.cumsum(seconds))
        over = ~(margin[: done.settled] >= 0.0)
        kept = int(np.argmax(over)) if over.any() else done.settled
        if kept:
            course.append(rows[:, :kept])
            sums += _energies(done.course, seconds, kept)
            at, now = done.ends.part(slice(kept - 1, kept)), float(rows[0, kept - 1])
            pieces.place += kept
        if over.any():
            load = loads.part(slice(kept, kept + 1))
            span, ended = _end_within(model, at, load, float(seconds[kept]))
            if span > SHORTEST_S:
                spans = np.array([span])
                at, last = model.stepped(at, load, model.spans(spans), ROUNDS)
                now += span
                sums += _energies(last, spans, 1)
            course.append(_rows(model, at, load, np.array([now]))[0])
        together = min(MOST_TOGETHER, max(LEAST_TOGETHER, 4 * kept))
    times, volts, amps, charges, celsius = np.concatenate(course, axis=1)
    emf_wh, delivered_wh = sums[0] / 3600.0, sums[1] / 3600.0
    path_wh = pack.path_ohm * sums[2] / 3600.0
    return Run(
        time_s=times,
        volts=volts,
        amps=amps,
        charge=charges,
        temperature_c=celsius,
        ended=ended,
        taken_ah=(charge - float(at.charge[0])) * pack.capacity_ah,
        delivered_wh=float(delivered_wh),
        emf_wh=float(emf_wh),
        cell_loss_wh=float(emf_wh - delivered_wh - path_wh),
        path_loss_wh=float(path_wh),
    )


def _rows(model: Model, at: States, loads: Loads, times: Array) -> tuple[Array, Array]:
    """Times, terminal volts, amps, charge and degC where a discharge stands, (5, n), and how far it
    is from its nearest limit, (n,).
    """
    volts, amps, margins = model.seen_at(at, loads)
    rows = np.array(np.broadcast_arrays(times, volts, amps, at.charge, at.celsius))
    return rows, margins.min(axis=0)


def _energies(course: RunCourse, seconds: Array, count: int) -> Array:
    """Over the first steps: J given at rest voltage, J delivered, and squared amps by time."""
    columns = (course.emf_w, course.given_w, course.draw.amps**2)
    return np.array([float(np.sum((column * seconds)[:count])) for column in columns])


def _end_within(model: Model, at: States, load: Loads, seconds: float) -> tuple[float, End]:
    """After how many seconds of a step, begun at ``at``, the first limit is met, and which."""
    low, high = 0.0, seconds
    for _ in range(LOOKS):
        spans = np.linspace(low, high, PLACES + 1)[1:]
        after, _ = model.stepped(at, load, model.spans(spans), ROUNDS)
        margins = model.seen_at(after, load)[2]
        over = ~(margins.min(axis=0) >= 0.0)
        # The last place is past a limit; by a hair it may not be, where the rounds differ.
        first = int(np.argmax(over)) if over.any() else PLACES - 1
        low, high = (low if first == 0 else float(spans[first - 1])), float(spans[first])
        before, past = margins[:, first - 1], margins[:, first]
        if first and not np.isnan(past).any() and (past < 0.0).any():
            # Between two places so near each other the way to a limit is straight.
            share = np.where(past < 0.0, before / np.where(past < 0.0, before - past, 1.0), 1.0)
            nearest = int(share.argmin())
            return low + float(share[nearest]) * (high - low), ENDS[nearest]
    nearest = int(margins[:, first].argmin())
    return low, "power not to be had" if np.isnan(margins[nearest, first]) else ENDS[nearest]
