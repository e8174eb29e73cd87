"""A logged ride or cut, read from CSV as a duty."""

from __future__ import annotations

import re
from typing import Literal

import numpy as np
from msgspec import Struct

from lumvak.core.document.loads import MOST_DUTY_STEPS, DutyStep
from lumvak.core.need.duty import condense, duty_mean, duty_rms
from lumvak.core.said import Text, digits, phrase, say
from lumvak.files.problem import FileProblem
from lumvak.files.spreadsheet import rows_of, separator_of

MOST_LINES = 500_000
# Some thirty years: stamps of a clock are no larger.
LONGEST_LOG_S = 4e9
MOST_AMOUNT, MOST_GAP_S = 1e6, 1e6
TIME_WORDS = ("time", "zeit", "sec", "t", "s", "timestamp", "elapsed")
CURRENT_WORDS = ("current", "amps", "ampere", "amp", "a", "i", "strom")
POWER_WORDS = ("power", "watts", "watt", "w", "p", "leistung")
NUMBER = re.compile(r"[+\-\u2212]?\d+(?:[.,]\d+)?(?:[eE][+\-]?\d+)?")
CLOCK = re.compile(r"(?:\S+[T ])?(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?Z?")


class DutyLog(Struct, frozen=True):
    """A log as a duty, and in one sentence what became of its samples."""

    steps: tuple[DutyStep, ...]
    unit: Literal["A", "W"]
    said: Text


class _LogColumns(Struct, frozen=True):
    time: int
    amount: int
    unit: Literal["A", "W"]
    count: int


def read_duty_log(text: str, where: str, unit: Literal["A", "W"]) -> DutyLog:
    """Read samples of time and current or power; ``unit`` is meant where no header says.

    Separators are semicolon, tab or comma; decimals a point or, unless the comma separates, a
    comma; a header is optional; time in seconds or as h:m:s. Raises FileProblem naming ``where``
    and the line.
    """
    lines = [
        (number, line)
        for number, line in enumerate(text.removeprefix("\ufeff").splitlines(), start=1)
        if line.strip() and not line.lstrip().startswith("#")
    ]
    if len(lines) > MOST_LINES:
        raise FileProblem(f"{where}: {len(lines)} lines; accepted: up to {MOST_LINES}")
    if not lines:
        raise FileProblem(f"{where} holds no samples; wanted are lines of time and current")
    separator = separator_of([line for _, line in lines[:20]])
    rows = [(number, next(rows_of([line], where, separator, number), [])) for number, line in lines]
    columns, header = _columns(rows, where, unit)
    samples = [
        _sample(cells, columns, f"{where}, line {number}")
        for number, cells in rows[1 if header else 0 :]
    ]
    if len(samples) < 2:
        raise FileProblem(f"{where}: {len(samples)} sample; a log wants at least two")
    times = np.array([time for time, _ in samples])
    gaps = np.diff(times)
    if not np.all(gaps <= MOST_GAP_S):
        place = int(np.flatnonzero(~(gaps <= MOST_GAP_S))[0]) + 1
        number = rows[place + (1 if header else 0)][0]
        raise FileProblem(
            f"{where}, line {number}: a gap of more than {MOST_GAP_S:g} s; accepted: one ride a log"
        )
    if np.any(gaps <= 0.0):
        place = int(np.flatnonzero(gaps <= 0.0)[0]) + 1
        number = rows[place + (1 if header else 0)][0]
        raise FileProblem(
            f"{where}, line {number}: time {samples[place][0]:g} s comes after "
            f"{samples[place - 1][0]:g} s; accepted: times that rise"
        )
    spans = np.append(gaps, np.median(gaps))
    raw = np.array([amount for _, amount in samples])
    amounts = np.maximum(raw, 0.0)
    if not np.any(amounts > 0.0):
        raise FileProblem(f"{where}: no sample draws anything; is it the right column?")
    return _log(amounts, spans, columns.unit, int(np.sum(raw < 0.0)))


def _log(amounts: np.ndarray, spans: np.ndarray, unit: Literal["A", "W"], braking: int) -> DutyLog:
    short, times = condense(amounts, spans, MOST_DUTY_STEPS)
    short, times = np.round(short, 4), np.round(times, 4)
    heat, kept = duty_rms(amounts, spans), duty_rms(short, times)
    told: Text = phrase(
        "{} samples over {} in {} steps: mean {}, heat {}",
        len(amounts),
        say(float(spans.sum()) / 3600.0, "h"),
        len(short),
        say(duty_mean(short, times), unit),
        say(kept, unit),
    )
    if abs(kept / heat - 1.0) >= 0.0005:
        off = digits((kept / heat - 1.0) * 100.0, "+.1f")
        told = phrase("{} ({} % by joining samples)", told, off)
    if braking:
        told = phrase("{}; {} samples under zero count as no load", told, braking)
    steps = tuple(
        DutyStep(amount=amount, seconds=span)
        for amount, span in zip(short.tolist(), times.tolist(), strict=True)
    )
    return DutyLog(steps, unit, phrase("{}.", told))


def _columns(
    rows: list[tuple[int, list[str]]], where: str, unit: Literal["A", "W"]
) -> tuple[_LogColumns, bool]:
    number, first = rows[0]
    if all(_is_number(cell) for cell in first if cell.strip()):
        if len(first) < 2:
            raise FileProblem(
                f"{where}, line {number}: one column; wanted are time and current, parted by "
                "comma, semicolon or tab"
            )
        if len(first) > 2:
            raise FileProblem(
                f"{where}, line {number}: {len(first)} columns and no header; add one that names "
                "“time” and “current” or “power”, or part with semicolons where commas are decimal"
            )
        return _LogColumns(0, 1, unit, 2), False
    words = [re.split(r"[^a-z]+", cell.strip().lower()) for cell in first]

    def find(names: tuple[str, ...]) -> int | None:
        hits = [place for place, parts in enumerate(words) if parts and parts[0] in names]
        return hits[0] if hits else None

    time, current, power = find(TIME_WORDS), find(CURRENT_WORDS), find(POWER_WORDS)
    if time is None or (current is None and power is None):
        raise FileProblem(
            f"{where}, line {number}: the header has {', '.join(cell.strip() for cell in first)}; "
            "wanted are a column “time” and one “current” or “power”"
        )
    take_power = power is not None and (current is None or unit == "W")
    if take_power and power is not None:
        return _LogColumns(time, power, "W", len(first)), True
    assert current is not None
    return _LogColumns(time, current, "A", len(first)), True


def _is_number(text: str) -> bool:
    return bool(NUMBER.fullmatch(text.strip()) or CLOCK.fullmatch(text.strip()))


def _sample(cells: list[str], columns: _LogColumns, place: str) -> tuple[float, float]:
    if len(cells) != columns.count:
        raise FileProblem(
            f"{place}: {len(cells)} columns, {columns.count} above; where commas are decimal, "
            "part the columns with semicolons"
        )
    stamp = cells[columns.time].strip()
    clock = CLOCK.fullmatch(stamp)
    if clock is not None:
        time = int(clock[1]) * 3600.0 + int(clock[2]) * 60.0
        time += _number(clock[3], place, "time") if clock[3] else 0.0
    else:
        time = _number(stamp, place, "time in seconds or h:m:s")
    name = "current" if columns.unit == "A" else "power"
    return time, _number(cells[columns.amount], place, name)


def _number(text: str, place: str, name: str) -> float:
    bare = text.strip()
    if not NUMBER.fullmatch(bare):
        raise FileProblem(f"{place}: “{bare}” is no {name}; write a number such as 12.5")
    value = float(bare.replace(",", ".").replace("\u2212", "-"))
    if name not in ("current", "power") and not abs(value) <= LONGEST_LOG_S:
        raise FileProblem(
            f"{place}: {bare[:20]} is too late a time; accepted: up to {LONGEST_LOG_S:g} s"
        )
    if not abs(value) <= MOST_AMOUNT and name in ("current", "power"):
        raise FileProblem(f"{place}: {bare} is too large a {name}; accepted: up to {MOST_AMOUNT:g}")
    return value
