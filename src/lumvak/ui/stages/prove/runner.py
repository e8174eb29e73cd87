"""A plan of tests that runs beside the window, and can be paused and stopped."""

from __future__ import annotations

import time
from collections.abc import Mapping, Sequence
from queue import Empty, SimpleQueue
from threading import Event, Thread

from msgspec import Struct

from lumvak.bench.at_bench import Assistant, Stopped
from lumvak.bench.instruments import QUICK_MS, Line, connected
from lumvak.bench.moment import moment_now
from lumvak.bench.proving_run import TestRun, instruments_on, run_tests
from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.helper import SimulatedHelper
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.watchdog import GUARDED, Watchdog
from lumvak.core.catalogue.instruments import BenchInstrument
from lumvak.core.document.proving import ProofReading, TestName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.spelling import Refused, spoken
from lumvak.ui.speech import worded

PIECE_S, LONGEST_JOIN_S = 0.2, 10.0
ACT_WORDS = {
    "plug charger": "Plug in the charger of the pack, then go on.",
    "pull charger": "Pull the charger, then go on.",
    "wake": "Wake the BMS if it sleeps, then go on.",
}


class BenchSource(Struct, frozen=True):
    """Where the tests are run: at a simulated bench, or with the instruments of ``resources``.

    ``speed`` is how many times as fast as the clock a simulated one runs, 0 as fast as it can;
    ``known`` are instruments that say things otherwise.
    """

    resources: Mapping[str, str]
    seed: int = 1
    faults: tuple[str, ...] = ()
    speed: float = 0.0
    known: tuple[BenchInstrument, ...] = ()

    @property
    def simulated(self) -> bool:
        """Whether no real instrument is named."""
        return not self.resources


class _Held:
    """An assistant that waits while the plan is paused, and stops where it is told to."""

    def __init__(self, inner: Assistant, runner: Runner, speed: float) -> None:
        self.inner, self.runner, self.speed = inner, runner, speed

    def _check(self) -> None:
        while self.runner.paused.is_set() and not self.runner.stopped.is_set():
            time.sleep(PIECE_S / 4.0)
        self.runner.check()

    def move(self, place: str) -> None:
        self._check()
        self.inner.move(place)

    def act(self, name: str) -> None:
        self._check()
        self.inner.act(name)

    def lamp(self) -> bool:
        return self.inner.lamp()

    def wait(self, seconds: float) -> None:
        self._check()
        if self.speed:
            time.sleep(seconds / self.speed)
        self.inner.wait(seconds)
        self._check()

    def now(self) -> float:
        return self.inner.now()

    def moment(self) -> str:
        return self.inner.moment()


class _AtWindow:
    """A person beside real instruments, told in the window what only hands can do."""

    def __init__(self, runner: Runner) -> None:
        self.runner = runner

    def move(self, place: str) -> None:
        self.runner.ask(worded("Put the probes of the meter on: {}.", place.replace(":", " ")))

    def act(self, name: str) -> None:
        self.runner.ask(ACT_WORDS[name])

    def lamp(self) -> bool:
        return self.runner.ask("Does the charger still charge?") != "no"

    def wait(self, seconds: float) -> None:
        end = time.monotonic() + seconds
        while (left := end - time.monotonic()) > 0.0:
            self.runner.check()
            time.sleep(min(left, PIECE_S))

    def now(self) -> float:
        return time.monotonic()

    def moment(self) -> str:
        return moment_now()


class Runner:
    """Runs tests in a thread; readings wait until they are taken.

    ``asks`` is what a person is to do now, ``runs`` how tests went, ``alarm`` what is not known to
    be off.
    """

    def __init__(
        self,
        pack: BenchPack,
        source: BenchSource,
        tests: Sequence[TestName],
        before: Sequence[ProofReading],
    ) -> None:
        self.pack, self.source, self.tests = pack, source, tuple(tests)
        self.before = tuple(before)
        self.queue: SimpleQueue[ProofReading] = SimpleQueue()
        self.paused, self.stopped, self._answered = Event(), Event(), Event()
        self.asks, self._answer, self.alarm, self.problem = "", "", "", ""
        self.runs: list[TestRun] = []
        self.watchdog: Watchdog | None = None
        self.ended = False
        self.thread = Thread(target=self._run, daemon=True, name="proving")

    def start(self) -> None:
        """Begin."""
        self.thread.start()

    def beat(self) -> None:
        """The window lives: its watchdog may stay quiet."""
        if self.watchdog is not None:
            self.watchdog.beat()

    def stop(self) -> None:
        """Stop at the next wait; load and supply go off."""
        self.stopped.set()
        self._answered.set()

    def join(self) -> None:
        """Wait until it has ended."""
        self.thread.join(LONGEST_JOIN_S)

    def ask(self, words: str) -> str:
        """Have a person do something, and wait until it is done; raises Stopped."""
        self._answered.clear()
        self.asks = words
        while not self._answered.wait(PIECE_S):
            self.check()
        self.asks = ""
        self.check()
        return self._answer

    def check(self) -> None:
        """Raise Stopped where a person stopped it, or nothing guards it any more."""
        if self.stopped.is_set():
            raise Stopped("Stopped by you")
        if self.watchdog is not None and not self.watchdog.alive:
            raise Stopped("The watchdog is gone: nothing guards load and supply any more")

    def answer(self, words: str) -> None:
        """What was asked for is done."""
        self._answer = words
        self._answered.set()

    @property
    def waiting(self) -> bool:
        """Whether readings wait to be taken."""
        return not self.queue.empty()

    def take(self) -> list[ProofReading]:
        """The readings that have come since."""
        found = []
        try:
            while True:
                found.append(self.queue.get_nowait())
        except Empty:
            return found

    @property
    def at(self) -> TestName | None:
        """The test that runs now."""
        return None if self.ended or len(self.runs) >= len(self.tests) else self._now

    _now: TestName | None = None

    def _run(self) -> None:
        try:
            if self.source.simulated:
                self._simulated()
            else:
                self._real()
        except Refused as problem:
            self.problem = spoken(problem.said)
        except Exception as problem:
            self.problem = f"{type(problem).__name__}: {problem}"
        finally:
            self.ended = True

    def _simulated(self) -> None:
        seed = self.source.seed
        pack = SimulatedPack(self.pack, seed, self.source.faults)
        with BackgroundBench(pack, seed) as bench, connected(bench.resources) as lines:
            self._tests(lines, SimulatedHelper(lines["meter"]))

    def _real(self) -> None:
        guarded = {role: it for role, it in self.source.resources.items() if role in GUARDED}
        with (
            connected(self.source.resources, QUICK_MS) as lines,
            Watchdog(guarded, self.source.known, by_itself=False) as self.watchdog,
        ):
            self._tests(lines, _AtWindow(self))

    def _tests(self, lines: Mapping[str, Line], assistant: Assistant) -> None:
        held = _Held(assistant, self, self.source.speed)
        instruments = instruments_on(lines, self.source.known)

        def keep(reading: ProofReading) -> None:
            self._now = reading.test
            self.queue.put(reading)

        for run in run_tests(self.pack, instruments, held, self.tests, keep, self.before):
            self.runs.append(run)
            if run.still_on:
                self.alarm = spoken(run.still_on)
            if self.stopped.is_set():
                return
