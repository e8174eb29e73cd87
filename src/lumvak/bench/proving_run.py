"""A plan of tests, run one after the other; whatever happens, load and supply end up off."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence

from msgspec import Struct

from lumvak.bench.at_bench import Assistant, AtBench, Instruments, Stopped
from lumvak.bench.instruments import KINDS, InstrumentError, Line
from lumvak.bench.procedures import PROCEDURES, in_order
from lumvak.core.catalogue.instruments import BenchInstrument
from lumvak.core.document.proving import ProofReading, TestName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.measured import last_attempt
from lumvak.core.said import Text

# Tests for which the BMS need not be awake, or must not be.
NOT_AWAKE = ("insulation", "asleep", "groups", "total")


class TestRun(Struct, frozen=True):
    """How a test went: empty where it ran to its end, else why it did not; what is still on."""

    test: TestName
    stopped: Text = ""
    still_on: Text = ""


def instruments_on(lines: Mapping[str, Line], known: Iterable[BenchInstrument] = ()) -> Instruments:
    """The instruments on lines by role, ``known`` are those that say things otherwise.

    Raises InstrumentError.
    """
    made = {role: KINDS[role](line, known) for role, line in lines.items()}
    return Instruments(**made)  # type: ignore[arg-type]


def run_tests(
    pack: BenchPack,
    instruments: Instruments,
    assistant: Assistant,
    tests: Sequence[TestName],
    keep: Callable[[ProofReading], None],
    before: Sequence[ProofReading] = (),
) -> Iterator[TestRun]:
    """Run tests in the order of their work, each as its next attempt; ``before`` was read earlier.

    A test that stops, or an instrument that does not answer, ends that test alone.
    """
    bench = AtBench(pack, instruments, assistant, keep)
    for test in in_order(tests):
        bench.begin(test, last_attempt(before, test) + 1)
        stopped: Text = ""
        try:
            if test not in NOT_AWAKE:
                assistant.act("wake")
            PROCEDURES[test](bench)
        except (Stopped, InstrumentError) as problem:
            stopped = problem.said
        finally:
            still = instruments.off()
        yield TestRun(test, stopped, still)
        if still:
            return
