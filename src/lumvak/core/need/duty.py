"""A duty: steps of current or power that repeat, and what they amount to."""

from __future__ import annotations

import heapq
import re
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.loads import MOST_DUTY_STEPS, DutyStep
from lumvak.core.said import Text, listed, phrase, say_exact
from lumvak.core.units import CURRENT, POWER, SECONDS, Kind, QuantityError, parse

Array = NDArray[np.float64]
# Window in s over which a changing load is taken as heat; methods 3.
HEAT_WINDOW_S = 600.0


class Preset(Struct, frozen=True):
    """A duty of a common kind: shares of the continuous load, and seconds."""

    name: str
    steps: tuple[tuple[float, float], ...]


# Our own shares, to begin from where nothing was measured; methods 3.
PRESETS = (
    Preset("stop and go", ((2.0, 6.0), (0.9, 40.0), (0.0, 14.0))),
    Preset("hills", ((1.8, 90.0), (1.0, 240.0), (0.2, 90.0))),
    Preset("cutting", ((2.5, 1.5), (0.9, 25.0), (0.0, 12.0))),
    Preset("drilling and driving", ((3.0, 0.5), (1.0, 6.0), (0.0, 20.0))),
    Preset("cruising", ((1.3, 20.0), (1.0, 600.0))),
    Preset("bursts", ((1.0, 30.0), (0.05, 120.0))),
)


def preset_steps(preset: Preset, amount: float) -> tuple[DutyStep, ...]:
    """The steps of a preset at a continuous load of ``amount`` A or W."""
    return tuple(
        DutyStep(amount=round(share * amount, 6), seconds=seconds)
        for share, seconds in preset.steps
    )


def condense(amounts: Array, seconds: Array, most: int) -> tuple[Array, Array]:
    """The same duty in at most ``most`` steps, (n,) each, by joining neighbours.

    The two neighbours whose joining costs least heat, a²·t, are joined first; charge and time are
    kept exactly, and the largest step is left alone (methods 3).
    """
    amount, span = [float(value) for value in amounts], [float(value) for value in seconds]
    count = len(amount)
    follows = [*range(1, count), -1]
    before = [-1, *range(count - 1)]
    stamp = [0] * count
    peak = max(amount, default=0.0)

    def cost(place: int, other: int) -> float:
        if amount[place] != amount[other] and peak in (amount[place], amount[other]):
            return float("inf")
        whole = span[place] + span[other]
        return (amount[place] - amount[other]) ** 2 * span[place] * span[other] / whole

    heap = [(cost(place, place + 1), place, place + 1, 0, 0) for place in range(count - 1)]
    heapq.heapify(heap)
    left = count
    while heap and (left > most or heap[0][0] == 0.0):
        price, place, other, first, second = heapq.heappop(heap)
        if stamp[place] != first or stamp[other] != second:
            continue
        if price == float("inf"):
            break
        whole = span[place] + span[other]
        if amount[place] != amount[other]:
            amount[place] = (amount[place] * span[place] + amount[other] * span[other]) / whole
        span[place] = whole
        stamp[place] += 1
        stamp[other] = -1
        follows[place] = follows[other]
        if follows[other] >= 0:
            before[follows[other]] = place
        left -= 1
        for pair in ((before[place], place), (place, follows[place])):
            if min(pair) >= 0:
                heapq.heappush(heap, (cost(*pair), *pair, stamp[pair[0]], stamp[pair[1]]))
    kept = [place for place in range(count) if stamp[place] >= 0]
    return np.array([amount[place] for place in kept]), np.array([span[place] for place in kept])


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
    """How long the largest amount lasts without a break, in s, across the end of a round too.

    ``amounts`` and ``seconds`` are (n,), one step each.
    """
    return longest_stretch_s(amounts, seconds, float(np.max(amounts)))


def longest_stretch_s(amounts: Array, seconds: Array, least: float) -> float:
    """How long a repeated duty stays at ``least`` or more without a break, in s.

    ``amounts`` and ``seconds`` are (n,), one step each.
    """
    top = amounts >= least * (1.0 - 1e-9)
    if np.all(top):
        return float(np.sum(seconds))
    first = int(np.flatnonzero(~top)[0])
    # Begun after a break, so that a stretch across the end of a round is whole.
    top, spans = np.roll(top, -first), np.roll(seconds, -first)
    sums = np.cumsum(np.where(top, spans, 0.0))
    before = np.maximum.accumulate(np.where(top, 0.0, sums))
    return float(np.max(np.where(top, sums - before, 0.0)))


def parse_duty(text: str, unit: str) -> tuple[DutyStep, ...]:
    """Read ``40 A 8 s, 18 A 40 s`` as a duty; ``unit`` is A or W.

    Steps are parted by semicolons, new lines, or commas with a space; amount and time by a space
    or a colon. Raises QuantityError naming the step.
    """
    kind = _kind_of(unit)
    parts = [part for part in re.split(r"[;\n]|,\s+", text.strip()) if part.strip()]
    if not parts:
        raise QuantityError(phrase("a duty wants at least one step, such as {} 10 s", kind.example))
    if len(parts) > MOST_DUTY_STEPS:
        raise QuantityError(phrase("{} steps; accepted: up to {}", len(parts), MOST_DUTY_STEPS))
    return tuple(_step(number, part, kind) for number, part in enumerate(parts, start=1))


def _kind_of(unit: str) -> Kind:
    return CURRENT if unit == "A" else POWER


def _step(number: int, text: str, kind: Kind) -> DutyStep:
    match = re.fullmatch(r"\s*([\d.,]+\s*[a-zA-Z]*)\s*[:\s]\s*([\d.,]+\s*[a-zA-Z]*)\s*", text)
    if match is None:
        raise QuantityError(
            phrase(
                "step {}, “{}”: write an amount and a time, such as {} 10 s",
                number,
                text.strip(),
                kind.example,
            )
        )
    try:
        amount, seconds = parse(match[1], kind), parse(match[2], SECONDS)
    except QuantityError as error:
        raise QuantityError(phrase("step {}: {}", number, error.said)) from error
    if seconds <= 0.0:
        raise QuantityError(phrase("step {}: a time of more than 0 s is wanted", number))
    return DutyStep(amount=amount, seconds=seconds)


def spell_duty(steps: Sequence[DutyStep], unit: str) -> Text:
    """Spell a duty so that ``parse_duty`` reads it back."""
    kind = _kind_of(unit)
    return listed(
        phrase("{} {}", say_exact(step.amount, kind.unit), say_exact(step.seconds, "s"))
        for step in steps
    )
