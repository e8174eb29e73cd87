"""Every test judged, and the pack as designed and as proven (methods 42)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, get_args

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.afterwards.passport import Standing
from lumvak.core.document.proving import Proving, TestName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.correction import (
    TELLING,
    Corrected,
    Posterior,
    Prior,
    Proven,
    continuous_a,
    corrected,
    posterior,
    prior_of,
)
from lumvak.core.proving.expected import INSIDE, Drawn, Expected, drawn_packs, expected_of
from lumvak.core.proving.measured import Measured, attempt_of, measured
from lumvak.core.proving.observables import Observable, of_test

Array = NDArray[np.float64]
# The band of a course is told for as long as so many packs run.
RUN_ON = 0.9
Verdict = Literal["inside", "outside", "not judged"]
STANDINGS: dict[Standing, str] = {
    "assumed": "The rating is assumed: nothing of it was measured.",
    "partly measured": "The rating is partly measured.",
    "proven": "The rating is proven: warmth, resistance and charge were measured.",
}
TESTS: tuple[TestName, ...] = get_args(TestName)
# The readings without which a rating is not proven.
PROVES = ("staircase.pack_mohm", "staircase.strip_k", "staircase.leads_k", "full-discharge.ah")


class Course(Struct, frozen=True, eq=False):
    """The output in a full discharge: minutes (m,), and volts between which nine in ten lie."""

    minutes: Array
    low_v: Array
    high_v: Array


class Prepared(Struct, frozen=True, eq=False):
    """What drawn packs say before anything is read; it hangs on the pack alone."""

    pack: BenchPack
    expected: Mapping[str, Expected]
    prior: Prior
    course: Course


class JudgedFigure(Struct, frozen=True):
    """A figure of a test: what is expected of it, what was measured, and how that stands."""

    observable: Observable
    expected: Expected
    measured: Measured | None
    verdict: Verdict


class JudgedTest(Struct, frozen=True):
    """A test with its figures, the one that it is taken for first; ``attempt`` 0 is none."""

    test: TestName
    figures: tuple[JudgedFigure, ...]
    verdict: Verdict
    attempt: int

    @property
    def outside(self) -> tuple[JudgedFigure, ...]:
        """The figures that are outside."""
        return tuple(it for it in self.figures if it.verdict == "outside")


class PackProof(Struct, frozen=True, eq=False):
    """All tests of a pack judged, and what they say of it.

    ``continuous`` and ``hours`` are what the path holds and how long it runs from full, new, at the
    continuous current; ``standing`` is how the rating stands.
    """

    pack: BenchPack
    tests: tuple[JudgedTest, ...]
    parameters: tuple[Corrected, ...]
    found: Posterior
    continuous_before: Proven
    continuous: Proven
    standing: Standing

    @property
    def hours_before(self) -> Proven:
        """The run time before anything was read."""
        return self.found.hours_before

    @property
    def hours(self) -> Proven:
        """The run time with what was read."""
        return self.found.hours_after

    def of(self, test: TestName) -> JudgedTest:
        """A test; raises StopIteration for one that the pack has not."""
        return next(it for it in self.tests if it.test == test)


def prepared(pack: BenchPack) -> Prepared:
    """Draw packs and take them through the tests; it takes about a second."""
    drawn = drawn_packs(pack)
    return Prepared(pack, expected_of(pack, drawn), prior_of(pack, drawn), _course(drawn))


def _course(drawn: Drawn) -> Course:
    """The band of a full discharge, for as long as nine in ten packs run."""
    volts = drawn.emptied.course_v
    runs = np.mean(np.isfinite(volts), axis=1) >= RUN_ON
    low, high = np.nanquantile(volts[runs], INSIDE, axis=1)
    return Course(drawn.emptied.course_s[runs] / 60.0, low, high)


def proof_of(ready: Prepared, proving: Proving, limits_a: Mapping[str, float]) -> PackProof:
    """Judge what was read; ``limits_a`` are those of the links of the path by key."""
    pack, read = ready.pack, measured(proving)
    found = posterior(pack, ready.prior, read)
    tests = tuple(
        judged for test in TESTS if (judged := _judged(test, ready, proving, read)) is not None
    )
    before = continuous_a(limits_a, found.before, found.spread_before)
    return PackProof(
        pack,
        tests,
        parameters=corrected(pack, found),
        found=found,
        continuous_before=before,
        continuous=continuous_a(limits_a, found.after, found.spread_after),
        standing=standing_of(read),
    )


def standing_of(read: Mapping[str, Measured]) -> Standing:
    """How the rating stands, from what was measured, by key."""
    if all(key in read for key in PROVES):
        return "proven"
    return "partly measured" if any(key in read for key in TELLING) else "assumed"


def _judged(
    test: TestName, ready: Prepared, proving: Proving, read: Mapping[str, Measured]
) -> JudgedTest | None:
    figures = []
    for observable in of_test(test):
        expected = ready.expected.get(observable.key)
        if expected is None:
            continue
        value = read.get(observable.key)
        verdict: Verdict = "not judged" if value is None else expected.verdict(value.value)
        figures.append(JudgedFigure(observable, expected, value, verdict))
    if not figures:
        return None
    verdicts = {it.verdict for it in figures}
    whole: Verdict = (
        "outside" if "outside" in verdicts else "inside" if "inside" in verdicts else "not judged"
    )
    return JudgedTest(test, tuple(figures), whole, attempt_of(proving, test))
