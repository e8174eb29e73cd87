"""The log of a tester over one discharge: what a cell gave, and its resistance where it pulsed."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.files.problem import FileProblem
from lumvak.files.spreadsheet import rows_of, separator_of

Array = NDArray[np.float64]
HEADS = {
    "time": ("time", "t", "seconds", "sec", "s", "elapsed"),
    "volts": ("voltage", "volts", "v", "u"),
    "amps": ("current", "amps", "a", "i"),
}
SCALES = {"ms": 1e-3, "min": 60.0, "h": 3600.0, "mv": 1e-3, "ma": 1e-3}
CLOCK = re.compile(r"(\d{1,6}):(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)")
LONGEST_ROWS = 2_000_000
# A pulse changes the current by so much of the most, within so many s from one sample to the next.
PULSE_SHARE, PULSE_S = 0.3, 30.0


class TesterLog(Struct, frozen=True):
    """What a log tells of a cell: Ah, V at the end, the mean current, mΩ where there is a pulse."""

    ah: float
    end_v: float
    mean_a: float
    mohm: float | None
    pulse_s: float | None


def is_tester_log(text: str) -> bool:
    """Whether a table has a time, a voltage and a current for each row."""
    lines = [line for line in text.lstrip("\ufeff").splitlines()[:5] if line.strip()]
    if not lines:
        return False
    try:
        heads = next(rows_of(lines[:1], "", separator_of(lines)), [])
    except FileProblem:
        return False
    return set(columns_of(heads)) == set(HEADS)


def columns_of(
    heads: Sequence[str], wanted: Mapping[str, Sequence[str]] = HEADS
) -> dict[str, tuple[int, float]]:
    """Place and scale of each column, by what it is: ``wanted`` are the words for each."""
    found: dict[str, tuple[int, float]] = {}
    for place, head in enumerate(heads):
        words = [word for word in re.split(r"[^a-z]+", head.strip().lower()) if word]
        for field, names in wanted.items():
            if words and words[0] in names and field not in found:
                scale = next((SCALES[word] for word in words[1:] if word in SCALES), 1.0)
                found[field] = (place, scale)
    return found


def read_tester_log(text: str, where: str) -> TesterLog:
    """Read a log of one discharge; raises FileProblem by line.

    The current's sign is that of most of its charge; what flows the other way does not count.
    """
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    if not 3 <= len(lines) <= LONGEST_ROWS:
        raise FileProblem(f"{where}: {len(lines)} rows; accepted: 3 to {LONGEST_ROWS}")
    rows = rows_of(lines, where, separator_of(lines))
    columns = columns_of(next(rows))
    if lacking := [name for name in HEADS if name not in columns]:
        raise FileProblem(f"{where}, line 1: no column for {', '.join(lacking)}")
    series: dict[str, list[float]] = {name: [] for name in HEADS}
    for line, row in enumerate(rows, 2):
        for name, (place, scale) in columns.items():
            shown = row[place].strip() if place < len(row) else ""
            series[name].append(number_of(shown, f"{where}, line {line}", name, scale))
    time, volts, amps = (np.array(series[name]) for name in HEADS)
    if (np.diff(time) < 0.0).any():
        at = int(np.argmax(np.diff(time) < 0.0)) + 3
        raise FileProblem(f"{where}, line {at}: time goes back; accepted: times that rise")
    amps = amps if float(np.trapezoid(amps, time)) >= 0.0 else -amps
    drawn = np.maximum(amps, 0.0)
    ah = float(np.trapezoid(drawn, time)) / 3600.0
    if ah <= 0.0:
        raise FileProblem(f"{where}: no current flows; accepted: the log of a discharge")
    flows = drawn > 0.05 * float(drawn.max())
    mohm, span = _pulse(time, volts, amps)
    return TesterLog(ah, float(volts[flows][-1]), float(drawn[flows].mean()), mohm, span)


def number_of(shown: str, place: str, name: str, scale: float) -> float:
    """A value in s, V or A; what is spelled as on a clock is in seconds whatever its head says.

    Raises FileProblem naming ``place``.
    """
    clock = CLOCK.fullmatch(shown)
    if name == "time" and clock is not None:
        hours, minutes, seconds = clock.groups()
        return int(hours) * 3600.0 + int(minutes) * 60.0 + float(seconds.replace(",", "."))
    try:
        value = float(shown.replace(",", ".").replace("\u2212", "-"))
    except ValueError:
        raise FileProblem(f"{place}: “{shown[:40]}” is no {name}; write a number") from None
    if not abs(value) < 1e9:
        raise FileProblem(f"{place}: {shown[:40]} is too large for {name}")
    return value * scale


def _pulse(time: Array, volts: Array, amps: Array) -> tuple[float | None, float | None]:
    """Resistance in mΩ and length in s of the sharpest step of the current, if there is any.

    The first sample that flows at all is a step as good as any: from rest to the load.
    """
    step, apart = np.diff(amps), np.diff(time)
    sharp = (np.abs(step) > PULSE_SHARE * float(np.abs(amps).max())) & (apart <= PULSE_S)
    found = np.flatnonzero(sharp & (apart > 0.0))
    if not len(found):
        return None, None
    ohm = -np.diff(volts)[found] / step[found]
    good = ohm > 0.0
    if not good.any():
        return None, None
    return float(np.median(ohm[good])) * 1e3, float(np.median(apart[found][good]))
