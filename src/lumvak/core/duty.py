"""A duty: steps of current or power that repeat, and what they amount to."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from lumvak.core.project import MOST_DUTY_STEPS, DutyStep
from lumvak.core.units import CURRENT, POWER, SECONDS, Kind, QuantityError, parse, spell

Array = NDArray[np.float64]

# Window in s over which a changing load is taken as heat; methods 3.
HEAT_WINDOW_S = 600.0


def duty_mean(amounts: Array, seconds: Array) -> float:
    """Mean of a duty of steps, ``amounts`` and ``seconds`` of shape (n,) (methods 3)."""
    return float(np.sum(amounts * seconds) / np.sum(seconds))


def duty_rms(amounts: Array, seconds: Array, window_s: float = HEAT_WINDOW_S) -> float:
    """Largest root-mean-square over any window of a repeated duty (methods 3).

    ``amounts`` and ``seconds`` have shape (n,). A window no shorter than one round of the duty
    counts whole rounds; a shorter one is moved to where it is worst, which is where it starts or
    ends at the border of a step.
    """
    whole = float(np.sum(seconds))
    if window_s >= whole:
        return float(np.sqrt(np.sum(amounts**2 * seconds) / whole))
    borders = np.concatenate(([0.0], np.cumsum(np.tile(seconds, 2))))
    squares = np.concatenate(([0.0], np.cumsum(np.tile(amounts**2 * seconds, 2))))
    starts = np.concatenate((borders, borders - window_s))
    starts = starts[(starts >= 0.0) & (starts + window_s <= borders[-1] + 1e-9)]
    sums = np.interp(starts + window_s, borders, squares) - np.interp(starts, borders, squares)
    return float(np.sqrt(np.max(sums) / window_s))


def longest_peak_s(amounts: Array, seconds: Array) -> float:
    """How long the largest amount lasts without a break, in s, across the end of a round too."""
    top = amounts >= np.max(amounts) * (1.0 - 1e-9)
    if np.all(top):
        return float(np.sum(seconds))
    first = int(np.flatnonzero(~top)[0])
    longest = run = 0.0
    for at_top, span in zip(np.roll(top, -first), np.roll(seconds, -first), strict=True):
        run = run + float(span) if at_top else 0.0
        longest = max(longest, run)
    return longest


def parse_duty(text: str, unit: str) -> tuple[DutyStep, ...]:
    """Read ``40 A 8 s, 18 A 40 s`` as a duty; ``unit`` is A or W.

    Steps are parted by semicolons, new lines, or commas with a space; amount and time by a space
    or a colon. Raises QuantityError naming the step.
    """
    kind = _kind_of(unit)
    parts = [part for part in re.split(r"[;\n]|,\s+", text.strip()) if part.strip()]
    if not parts:
        raise QuantityError(f"a duty wants at least one step, such as {kind.example} 10 s")
    if len(parts) > MOST_DUTY_STEPS:
        raise QuantityError(f"{len(parts)} steps; accepted: up to {MOST_DUTY_STEPS}")
    return tuple(_step(number, part, kind) for number, part in enumerate(parts, start=1))


def _kind_of(unit: str) -> Kind:
    return CURRENT if unit == "A" else POWER


def _step(number: int, text: str, kind: Kind) -> DutyStep:
    match = re.fullmatch(r"\s*([\d.,]+\s*[a-zA-Z]*)\s*[:\s]\s*([\d.,]+\s*[a-zA-Z]*)\s*", text)
    if match is None:
        raise QuantityError(
            f"step {number}, “{text.strip()}”: write an amount and a time, such as "
            f"{kind.example} 10 s"
        )
    try:
        amount, seconds = parse(match[1], kind), parse(match[2], SECONDS)
    except QuantityError as error:
        raise QuantityError(f"step {number}: {error}") from error
    if seconds <= 0.0:
        raise QuantityError(f"step {number}: a time of more than 0 s is wanted")
    return DutyStep(amount=amount, seconds=seconds)


def spell_duty(steps: Sequence[DutyStep], unit: str) -> str:
    """Spell a duty so that ``parse_duty`` reads it back."""
    kind = _kind_of(unit)
    return ", ".join(f"{spell(step.amount, kind)} {spell(step.seconds, SECONDS)}" for step in steps)
