"""Instruments that speak SCPI, whatever lies between: a socket, a serial line, USB (methods 42)."""

from __future__ import annotations

import contextlib
import math
import socket
from collections.abc import Iterable, Iterator, Mapping
from typing import Any, NamedTuple, Protocol

from lumvak.core.catalogue.instruments import USUAL_WORDS, BenchInstrument
from lumvak.core.proving.expected import AMP_A, AMP_SHARE, KELVIN, TOLD_V, VOLT_SHARE, VOLT_V
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused

# An instrument answers within the one; a simulated one may have to let a week pass first.
QUICK_MS, PATIENT_MS = 3_000, 30_000
# Larger than this is what instruments say for “over range”.
OVER_RANGE = 9e36


class InstrumentError(Refused):
    """An instrument that does not answer, or refuses what it was told."""


class Line(Protocol):
    """What carries lines to an instrument and back."""

    def write(self, text: str) -> None:
        """Send a line."""

    def query(self, text: str) -> str:
        """Send a line and wait for its answer."""

    def close(self) -> None:
        """Let go of it."""


class Taken(NamedTuple):
    """A value as an instrument gave it, and the standard deviation of what it may be off by."""

    value: float
    off: float


class VisaLine:
    """A line through VISA; raises InstrumentError where there is nobody, or no answer in time."""

    def __init__(self, resource: str, timeout_ms: int = PATIENT_MS) -> None:
        import pyvisa

        self.resource = resource
        try:
            manager = pyvisa.ResourceManager("@py")
            self.open: Any = manager.open_resource(
                resource, read_termination="\n", write_termination="\n", timeout=timeout_ms
            )
        except (pyvisa.Error, OSError, ValueError) as problem:
            raise InstrumentError(_lost(resource, problem)) from problem
        _at_once(self.open)

    def write(self, text: str) -> None:
        """Send a line."""
        self._do(self.open.write, text)

    def query(self, text: str) -> str:
        """Send a line and wait for its answer."""
        return str(self._do(self.open.query, text)).strip()

    def _do(self, act: Any, text: str) -> Any:
        import pyvisa

        try:
            return act(text)
        except (pyvisa.Error, OSError, UnicodeError) as problem:
            raise InstrumentError(_lost(self.resource, problem)) from problem

    def close(self) -> None:
        """Let go of it."""
        import pyvisa

        with contextlib.suppress(pyvisa.Error, OSError):
            self.open.close()


def _at_once(open_: Any) -> None:
    """Let a socket send each line at once, where it is one: else an answer waits 40 ms."""
    session = getattr(open_.visalib, "sessions", {}).get(open_.session)
    own = getattr(session, "interface", None)
    if isinstance(own, socket.socket):
        own.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)


def _lost(resource: str, problem: Exception) -> Text:
    return phrase("{} does not answer: {}", resource, str(problem)[:200])


@contextlib.contextmanager
def connected(
    resources: Mapping[str, str], timeout_ms: int = PATIENT_MS
) -> Iterator[dict[str, VisaLine]]:
    """Lines to resources by role, all closed afterwards; raises InstrumentError."""
    with contextlib.ExitStack() as held:
        lines = {}
        for role, resource in resources.items():
            lines[role] = VisaLine(resource, timeout_ms)
            held.callback(lines[role].close)
        yield lines


class Instrument:
    """An instrument on a line, known by what it says of itself."""

    role = ""

    def __init__(self, line: Line, known: Iterable[BenchInstrument] = ()) -> None:
        """``known`` are instruments that say a command otherwise, by what they say to *IDN?."""
        self.line, self.name = line, line.query("*IDN?")[:60]
        own = next((it for it in known if it.idn.lower() in self.name.lower()), None)
        self.words: dict[str, str] = dict(USUAL_WORDS)
        if own is not None:
            self.words.update((word.meant, word.says) for word in own.words)
        self.volt_share = VOLT_SHARE if own is None or own.volt_share is None else own.volt_share
        self.amp_share = AMP_SHARE if own is None or own.amp_share is None else own.amp_share

    def tell(self, meant: str, *values: object) -> None:
        """Tell it to do something, and hear whether it did; raises InstrumentError."""
        self.line.write(self.words[meant].format(*values))
        error = self.line.query("SYSTem:ERRor?")
        if not error.lstrip("+").startswith("0"):
            raise InstrumentError(phrase("{} refuses: {}", self.name, error[:80]))

    def number(self, meant: str, *values: object) -> float:
        """Ask for a number; raises InstrumentError where it is none."""
        text = self.line.query(self.words[meant].format(*values))
        try:
            value = float(text.split(",")[0])
        except ValueError:
            raise InstrumentError(phrase("{} says “{}”", self.name, text[:40])) from None
        if not abs(value) < OVER_RANGE:
            raise InstrumentError(phrase("{} is over its range", self.name))
        return value


class Multimeter(Instrument):
    """A multimeter."""

    role = "meter"

    def __init__(self, line: Line, known: Iterable[BenchInstrument] = ()) -> None:
        """It is asked once whether it tells of its range."""
        super().__init__(line, known)
        self.range_v: float | None = None
        with contextlib.suppress(InstrumentError):
            self.range_v = self.number("meter.range")
        if self.range_v is None:
            line.write("*CLS")

    @property
    def as_set(self) -> str:
        """Which one it is, with the range in which it read last."""
        return self.name if self.range_v is None else f"{self.name}, {self.range_v:g} V"

    def volts(self) -> Taken:
        """DC volts where its probes are."""
        value = self.number("meter.volts")
        if self.range_v is not None:
            self.range_v = self.number("meter.range")
        return Taken(value, self.volt_share * abs(value) + VOLT_V)


class _Source(Instrument):
    """What gives or takes current, with its limits in itself."""

    def set(self, volts: float | None = None, amps: float | None = None) -> None:
        """Set volts and amps."""
        if volts is not None:
            self.tell("source.volts", f"{volts:.4f}")
        if amps is not None:
            self.tell("source.amps", f"{amps:.4f}")

    def protect(self, volts: float) -> None:
        """Set the over-voltage protection of its own, before the output."""
        self.tell("source.protect", f"{volts:.4f}")

    def turn(self, on: bool) -> None:
        """Turn it on or off."""
        self.tell(f"{self.role}.turn", "ON" if on else "OFF")

    @property
    def is_on(self) -> bool:
        """Whether it says that it is on."""
        return self.number(f"{self.role}.is_on") != 0.0

    def amps(self) -> Taken:
        """What flows in it."""
        value = self.number("source.read_amps")
        return Taken(value, self.amp_share * abs(value) + AMP_A)

    def volts(self) -> Taken:
        """What it shows at its own terminals."""
        value = self.number("source.read_volts")
        return Taken(value, self.volt_share * abs(value) + VOLT_V)


class Supply(_Source):
    """A bench supply."""

    role = "supply"


class ElectronicLoad(_Source):
    """An electronic load."""

    role = "load"


class Thermometer(Instrument):
    """A thermometer with channels."""

    role = "thermometer"

    def celsius(self, channel: int) -> Taken:
        """What a channel shows."""
        return Taken(self.number("thermometer.celsius", channel), KELVIN)


class BmsLink(Instrument):
    """What a BMS tells of its groups."""

    role = "bms"

    def volts(self, group: int) -> Taken:
        """Volts of a group, from 1."""
        value = self.number("bms.volts", group)
        return Taken(value, math.hypot(self.volt_share * abs(value) + VOLT_V, TOLD_V))


KINDS: dict[str, type[Instrument]] = {
    "meter": Multimeter,
    "supply": Supply,
    "load": ElectronicLoad,
    "thermometer": Thermometer,
    "bms": BmsLink,
}
