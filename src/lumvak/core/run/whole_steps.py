"""The steps of a run that nothing ends, with all names at hand."""

from __future__ import annotations

import math
from collections.abc import Sequence

from lumvak.core.run.model import (
    GRID,
    TEMPERATURE_LOW_C,
    TEMPERATURE_POINTS,
    TEMPERATURE_STEP_C,
    Model,
    State,
    Step,
)


def pieces_of(step: Step, step_s: float) -> tuple[int, float]:
    """Into how many equal pieces of at most ``step_s`` a step is cut, and their seconds."""
    pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
    return pieces, step.seconds / pieces


def whole_steps(  # noqa: PLR0912, PLR0915
    model: Model,
    state: State,
    duty: Sequence[Step],
    place: int,
    done: int,
    step_s: float,
    longest_s: float,
    course: list[tuple[float, float, float, float, float]],
) -> tuple[State, int, int]:
    """Whole pieces of the duty, repeated, as long as nothing ends the run.

    Begins after ``done`` pieces of step ``place``, writes each piece to ``course``, and returns
    the state and where it stopped. This is ``midway`` and ``_end_of`` with all names at hand: it
    is where a run spends its time, and calls would take most of it. It is long for that reason.
    """
    pack = model.pack
    rest, shape, warm = model.rest, model.shape, model.warm
    series, parallel, cells = pack.series, pack.parallel, model.cells
    path_ohm, heat_ohm, ambient = pack.path_ohm, pack.heat_path_ohm, pack.ambient_c
    fast_ohm, slow_ohm, farad = model.fast_ohm, model.slow_ohm, model.farad
    stop_v, empty_v, limit_c = pack.stop_v, pack.cell.voltage_empty_v, pack.limit_c
    exp, sqrt = math.exp, math.sqrt
    kelvin, charge_per_as = pack.kelvin_per_watt, model.charge_per_as
    cooling_s, count = model.cooling_s, len(duty)
    top = TEMPERATURE_POINTS - 1.001
    now = course[-1][0]
    charge, slow_v, celsius = state.charge, state.slow_v, state.celsius
    rest_v, factor = state.rest_v, state.factor
    emf_j, delivered_j = state.emf_j, state.delivered_j
    cell_loss_j, path_loss_j = state.cell_loss_j, state.path_loss_j
    pieces, size, cool, cool_half = 0, -1.0, 0.0, 0.0
    power: float | None = None
    amps = held_a = half = 0.0
    while True:
        if done >= pieces:
            # The next step of the duty, or the one to begin with.
            if pieces:
                place, done = place + 1, 0
            step = duty[place % count]
            pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
            span = step.seconds / pieces
            if span != size:
                size, half = span, 0.5 * span
                cool, cool_half = exp(-size / cooling_s), exp(-half / cooling_s)
            power, held_a = step.power_w, step.current_a or 0.0
            amps = held_a
        if now + size > longest_s:
            break
        # To the middle, at the current of the start.
        if power is not None:
            emf = series * (rest_v - slow_v)
            ohm = path_ohm + series * fast_ohm * factor / parallel
            root = emf * emf - 4.0 * ohm * power
            if root < 0.0:
                break
            amps = 2.0 * power / (emf + sqrt(root))
        each = amps / parallel
        slow = slow_ohm * factor
        level = each * slow
        half_v = level + (slow_v - level) * exp(-half / (slow * farad))
        loss = each * each * fast_ohm * factor + 0.5 * (slow_v * slow_v + half_v * half_v) / slow
        steady = ambient + (loss * cells + amps * amps * heat_ohm) * kelvin
        half_charge = charge - amps * half * charge_per_as
        half_c = steady + (celsius - steady) * cool_half
        along = 0.0 if half_charge <= 0.0 else GRID if half_charge >= 1.0 else half_charge * GRID
        low = int(along)
        share = along - low
        under = shape[low]
        half_factor = under + (shape[low + 1] - under) * share
        spot = (half_c - TEMPERATURE_LOW_C) / TEMPERATURE_STEP_C
        if not 0.0 <= spot <= top:
            spot = min(max(spot, 0.0), top)
        near = int(spot)
        under = warm[near]
        half_factor *= under + (warm[near + 1] - under) * (spot - near)
        if power is not None:
            under = rest[low]
            emf = series * (under + (rest[low + 1] - under) * share - half_v)
            ohm = path_ohm + series * fast_ohm * half_factor / parallel
            root = emf * emf - 4.0 * ohm * power
            if root < 0.0:
                break
            amps = 2.0 * power / (emf + sqrt(root))
            each = amps / parallel
        # The whole step, at the current and the resistance of the middle.
        next_charge = charge - amps * size * charge_per_as
        fast, slow = fast_ohm * half_factor, slow_ohm * half_factor
        tau = slow * farad
        level = each * slow
        gap = slow_v - level
        fade = exp(-size / tau)
        next_v = level + gap * fade
        area = level * size + gap * tau * (1.0 - fade)
        square = (
            level * level * size
            + 2.0 * level * gap * tau * (1.0 - fade)
            + 0.5 * gap * gap * tau * (1.0 - fade * fade)
        )
        along = 0.0 if next_charge <= 0.0 else GRID if next_charge >= 1.0 else next_charge * GRID
        low = int(along)
        share = along - low
        under = rest[low]
        next_rest = under + (rest[low + 1] - under) * share
        emf = 0.5 * (rest_v + next_rest) * each * size
        loss = each * each * fast * size + square / slow
        path = amps * amps * path_ohm * size
        given = (emf - each * area - each * each * fast * size) * cells - path
        steady = ambient + (loss * cells / size + amps * amps * heat_ohm) * kelvin
        next_c = steady + (celsius - steady) * cool
        under = shape[low]
        next_factor = under + (shape[low + 1] - under) * share
        spot = (next_c - TEMPERATURE_LOW_C) / TEMPERATURE_STEP_C
        if not 0.0 <= spot <= top:
            spot = min(max(spot, 0.0), top)
        near = int(spot)
        under = warm[near]
        next_factor *= under + (warm[near + 1] - under) * (spot - near)
        # Whether it may stand there.
        drawn = held_a
        if power is not None:
            emf_v = series * (next_rest - next_v)
            ohm = path_ohm + series * fast_ohm * next_factor / parallel
            root = emf_v * emf_v - 4.0 * ohm * power
            if root < 0.0:
                break
            drawn = 2.0 * power / (emf_v + sqrt(root))
        cell_v = next_rest - next_v - drawn / parallel * fast_ohm * next_factor
        volts = series * cell_v - drawn * path_ohm
        if volts < stop_v or cell_v < empty_v or next_charge <= 0.0 or next_c > limit_c:
            break
        charge, slow_v, celsius, rest_v, factor = (
            next_charge, next_v, next_c, next_rest, next_factor,
        )  # fmt: skip
        emf_j += emf * cells
        delivered_j += given
        cell_loss_j += loss * cells
        path_loss_j += path
        now += size
        done += 1
        course.append((now, volts, drawn, charge, celsius))
    after = State(
        charge, slow_v, celsius, rest_v, factor, emf_j, delivered_j, cell_loss_j, path_loss_j
    )
    return after, place, done
