"""A process of its own that turns load and supply off when nobody is heard of any more.

It holds its own connections. A beat comes on its standard input; where none has come for two
seconds, or the input ends without a word, load and then supply are turned off and read back.
"""

from __future__ import annotations

import contextlib
import os
import select
import subprocess
import sys
from collections.abc import Iterable, Mapping
from pathlib import Path
from threading import Event, Thread

import msgspec
from msgspec import Struct

from lumvak.bench.at_bench import Instruments
from lumvak.bench.instruments import QUICK_MS, InstrumentError, VisaLine
from lumvak.bench.proving_run import instruments_on
from lumvak.core.catalogue.instruments import BenchInstrument
from lumvak.core.spelling import spoken

# Silence that is too long, and how often a beat is sent, in s.
SILENT_S, BEAT_S = 2.0, 0.4
BEAT, BYE = b".", b"x"
# What gives or takes current is guarded.
GUARDED = ("load", "supply")
# How often turning off is tried.
TRIES = 3


class Watched(Struct, frozen=True):
    """What the process is told: resources by role, and instruments that say things otherwise."""

    resources: dict[str, str]
    known: tuple[BenchInstrument, ...] = ()

    def instruments(self) -> Instruments:
        """The instruments, over new connections; raises InstrumentError."""
        lines = {role: VisaLine(it, QUICK_MS) for role, it in self.resources.items()}
        return instruments_on(lines, self.known)


class Watchdog:
    """Starts the process for some resources; left in the usual way it is sent away.

    It beats for it while this program lives; where that is not ``by_itself``, whoever uses it calls
    ``beat``, so that one who hangs is missed too. Whatever else happens, the process turns off.
    """

    def __init__(
        self,
        resources: Mapping[str, str],
        known: Iterable[BenchInstrument] = (),
        *,
        by_itself: bool = True,
    ) -> None:
        self.told = Watched(dict(resources), tuple(known))
        self.by_itself = by_itself
        self.process: subprocess.Popen[bytes] | None = None
        self._end = Event()
        self._thread: Thread | None = None

    def __enter__(self) -> Watchdog:
        """Start it, and wait until it holds its connections; raises InstrumentError."""
        if not self.told.resources:
            return self
        source = str(Path(__file__).resolve().parents[2])
        path = os.pathsep.join(filter(None, (source, os.environ.get("PYTHONPATH", ""))))
        self.process = subprocess.Popen(
            [sys.executable, "-P", "-m", "lumvak.bench.watchdog", msgspec.json.encode(self.told)],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={**os.environ, "PYTHONPATH": path},
        )
        assert self.process.stdout is not None
        if self.process.stdout.readline().strip() != b"ready":
            raise InstrumentError("the watchdog does not reach load and supply")
        self.beat()
        if self.by_itself:
            self._thread = Thread(target=self._beats, daemon=True, name="heartbeat")
            self._thread.start()
        return self

    @property
    def alive(self) -> bool:
        """Whether it still watches; True where there is nothing to watch."""
        return self.process is None or self.process.poll() is None

    def beat(self) -> None:
        """Say that somebody is there."""
        if self.process is None or self.process.stdin is None or self._end.is_set():
            return
        with contextlib.suppress(OSError, ValueError):
            self.process.stdin.write(BEAT)
            self.process.stdin.flush()

    def _beats(self) -> None:
        while not self._end.wait(BEAT_S):
            self.beat()

    def __exit__(self, *_: object) -> None:
        """Send it away: load and supply were turned off by whoever used them."""
        self._end.set()
        if self._thread is not None:
            self._thread.join()
        if self.process is not None:
            with contextlib.suppress(OSError, subprocess.TimeoutExpired):
                self.process.communicate(BYE, timeout=SILENT_S + 5.0)


def watch(told: Watched) -> int:
    """Wait for beats; 0 where it was sent away, 1 where it turned off, 2 where it could not."""
    instruments = told.instruments()
    print("ready", flush=True)
    while True:
        readable, _, _ = select.select([sys.stdin], [], [], SILENT_S)
        heard = os.read(sys.stdin.fileno(), 64) if readable else b""
        if BYE in heard:
            return 0
        if not heard:
            return _turn_off(instruments, told)


def _turn_off(instruments: Instruments, told: Watched) -> int:
    """Turn off, over new connections where the old ones are lost."""
    for _ in range(TRIES):
        if not (still := instruments.off()):
            return 1
        print(spoken(still), file=sys.stderr, flush=True)
        with contextlib.suppress(InstrumentError):
            instruments = told.instruments()
    return 2


if __name__ == "__main__":
    sys.exit(watch(msgspec.json.decode(sys.argv[1], type=Watched)))
