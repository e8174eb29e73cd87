"""Who moves probes and lets time pass at the simulated bench, and lines to it without a socket."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from lumvak.bench.instruments import InstrumentError, Line
from lumvak.bench.moment import MOMENT
from lumvak.bench.simulated.instruments import NAMES, Bench, interpreters
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.scpi import Interpreter

# The simulated clock begins here.
BEGINS = datetime(2026, 1, 1, 8, 0, tzinfo=UTC)
ACTS = {
    "plug charger": "SIMulate:CHARger ON",
    "pull charger": "SIMulate:CHARger OFF",
    "wake": "SIMulate:BUTTon",
}


class SimulatedHelper:
    """Does at the simulated bench what a person does at a real one, through a line to it."""

    def __init__(self, line: Line) -> None:
        self.line, self.passed = line, 0.0

    def move(self, place: str) -> None:
        """Put the probes of the meter on a place."""
        self.line.write(f"ROUTe:PROBe {place}")

    def act(self, name: str) -> None:
        """Do what only hands can do."""
        self.line.write(ACTS[name])

    def lamp(self) -> bool:
        """Whether the charger still charges."""
        return self.line.query("SIMulate:CHARger?") == "1"

    def wait(self, seconds: float) -> None:
        """Let time pass."""
        self.line.write(f"SIMulate:WAIT {seconds:.4f}")
        self.passed += seconds

    def now(self) -> float:
        """Simulated seconds that were waited."""
        return self.passed

    def moment(self) -> str:
        """The simulated day and time."""
        return (BEGINS + timedelta(seconds=self.passed)).strftime(MOMENT)


class DirectLine:
    """A line to a simulated instrument in the same process."""

    def __init__(self, interpreter: Interpreter) -> None:
        self.interpreter = interpreter

    def write(self, text: str) -> None:
        """Send a line."""
        self.interpreter.line(text)

    def query(self, text: str) -> str:
        """Send a line and take its answer; raises InstrumentError where there is none."""
        answer = self.interpreter.line(text)
        if answer is None:
            raise InstrumentError("no answer")
        return answer

    def close(self) -> None:
        """Nothing is held."""


def direct_lines(pack: SimulatedPack, seed: int) -> dict[str, DirectLine]:
    """Lines to all instruments of a simulated bench in this process, where time stands still."""
    bench = Bench(pack, seed, lambda: 0.0)
    known = interpreters(bench)
    return {name: DirectLine(known[name]) for name in NAMES}
