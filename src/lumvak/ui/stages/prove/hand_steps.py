"""A test by hand: each reading a step in bench mode, kept the moment it is typed."""

from __future__ import annotations

from collections.abc import Sequence

from lumvak.bench.moment import moment_now
from lumvak.core import units
from lumvak.core.document.edit import ProjectError
from lumvak.core.document.proving import ProofReading
from lumvak.core.proving.guide import GUIDES, HandReading
from lumvak.core.proving.measured import last_attempt
from lumvak.core.proving.proof import JudgedTest
from lumvak.core.units import QuantityError, parse
from lumvak.ui.bench_mode import BenchStep
from lumvak.ui.speech import said_of, say, spoken, worded
from lumvak.ui.stages.prove.place_drawn import sides_of_place
from lumvak.ui.stages.prove.prover import Prover
from lumvak.ui.stages.prove.set_up import SetUpDrawing

KINDS = {
    "volts": units.VOLTAGE, "amps": units.CURRENT, "celsius": units.TEMPERATURE,
    "ah": units.CAPACITY, "wh": units.ENERGY, "hours": units.HOURS,
}  # fmt: skip
UNITS = {"volts": "V", "amps": "A", "ah": "Ah", "wh": "Wh"}
# Tests of which each reading is what is judged.
READ_ALONE = ("insulation", "asleep", "surge", "over-current", "charger-stop", "over-voltage",
              "full-discharge", "under-voltage")  # fmt: skip


def hand_steps(
    prover: Prover, judged: JudgedTest, readings: Sequence[HandReading]
) -> list[BenchStep]:
    """The steps of a test as its next attempt."""
    attempt = last_attempt(prover.session.project.proving.readings, judged.test) + 1
    flowing: dict[str, float] = {}
    return [_step(prover, judged, wanted, attempt, flowing) for wanted in readings]


def _step(
    prover: Prover,
    judged: JudgedTest,
    wanted: HandReading,
    attempt: int,
    flowing: dict[str, float],
) -> BenchStep:
    """One reading; ``flowing`` holds the current that was typed last, as ``a``."""
    guide = GUIDES[judged.test]

    def take(text: str) -> str:
        if not text:
            return ""
        try:
            value = parse(text, KINDS[wanted.what])
        except QuantityError as problem:
            return said_of(problem)
        amps = wanted.level_a
        if wanted.what == "amps" and wanted.level_a is None:
            flowing["a"] = value
        if wanted.flows or judged.test in ("over-voltage", "under-voltage"):
            amps = flowing.get("a", 1.0)
        try:
            for reading in _readings(judged, wanted, value, amps, attempt):
                prover.keep(reading)
        except ProjectError as problem:
            return said_of(problem)
        return ""

    def connected() -> SetUpDrawing:
        drawing = SetUpDrawing(large=True)
        drawing.show_test(guide, wanted.place)
        return drawing

    on_cells = wanted.what == "volts"
    sides = sides_of_place(prover.session.evaluation, wanted.place) if on_cells else ()
    return BenchStep(
        guide.name,
        spoken(wanted.says),
        sides=sides,
        beside=None if sides else connected,
        caution=" ".join(guide.cautions),
        expected=_expected(judged, wanted),
        take=take,
    )


def _readings(
    judged: JudgedTest, wanted: HandReading, value: float, amps: float | None, attempt: int
) -> list[ProofReading]:
    """What a typed value is kept as."""

    def made(value: float, what: str, place: str, amps: float | None) -> ProofReading:
        return ProofReading(
            test=judged.test,
            attempt=attempt,
            what=what,  # type: ignore[arg-type]
            place=place,
            value=value,
            amps=amps,
            at_s=wanted.at_s,
            by="by hand",
            taken=moment_now(),
        )

    if judged.test == "over-current" and wanted.level_a == 0.0:
        # It opened at this current: none flowed.
        return [made(0.0, "amps", "bms", value)]
    kept = [made(value, wanted.what, wanted.place, amps)]
    if judged.test in ("over-voltage", "under-voltage"):
        kept.append(made(0.0, "amps", "bms", None))
    return kept


def _expected(judged: JudgedTest, wanted: HandReading) -> str:
    """What is expected of a reading, where the test is told by that reading alone."""
    if judged.test not in READ_ALONE:
        return ""
    unit = UNITS.get(wanted.what)
    found = next((it for it in judged.figures if it.observable.unit == unit), None)
    if found is None:
        return ""
    low, high = (say(it, found.observable.unit) for it in (found.expected.low, found.expected.high))
    return worded("{} to {}", low, high)
