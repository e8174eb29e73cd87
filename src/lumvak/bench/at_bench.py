"""Whoever stands at the bench, by hand or by instrument: what is read is kept at once."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import Protocol

from msgspec import Struct

from lumvak.bench.instruments import (
    BmsLink,
    ElectronicLoad,
    InstrumentError,
    Multimeter,
    Supply,
    Taken,
    Thermometer,
)
from lumvak.core.document.proving import ProofReading, Quantity, TestName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.said import Text, phrase, say
from lumvak.core.spelling import Refused

CHANNELS = {"air": 1, "cells": 2, "strip": 3, "lead": 4}
# A group may come so near to harm before a test is stopped, in V.
GROUP_OVER_V, GROUP_UNDER_V = 0.12, 0.2
# The protection of a supply stands so much over what it is set to.
PROTECT_OVER = 1.03
# What is read back as off.
OFF_A = 0.02


class Stopped(Refused):
    """A test that was stopped by a person or by a limit; what was read is kept."""


class Assistant(Protocol):
    """Who moves the probes, plugs and presses, and lets time pass."""

    def move(self, place: str) -> None:
        """Put the probes of the meter on a place."""

    def act(self, name: str) -> None:
        """Do what only hands can do: ``plug charger``, ``pull charger``, ``wake``."""

    def lamp(self) -> bool:
        """Whether the charger still shows that it charges."""

    def wait(self, seconds: float) -> None:
        """Let time pass; raises Stopped."""

    def now(self) -> float:
        """Seconds since something."""

    def moment(self) -> str:
        """The day and the time."""


class Instruments(Struct, frozen=True):
    """What stands on the bench; what is not there is ``None``."""

    meter: Multimeter | None = None
    supply: Supply | None = None
    load: ElectronicLoad | None = None
    thermometer: Thermometer | None = None
    bms: BmsLink | None = None

    def off(self) -> Text:
        """Turn off the load, then the supply, each read back; what is still on, in words."""
        still: list[str] = []
        for source in (self.load, self.supply):
            if source is None:
                continue
            try:
                source.turn(False)
                if source.is_on:
                    still.append(source.role)
            except InstrumentError:
                still.append(source.role)
        if not still:
            return ""
        return phrase(
            "Not known to be off: {}. Pull its plug from the pack now.", " and ".join(still)
        )


class AtBench:
    """A test as it runs: its instruments, its readings, its limits."""

    def __init__(
        self,
        pack: BenchPack,
        instruments: Instruments,
        assistant: Assistant,
        keep: Callable[[ProofReading], None],
    ) -> None:
        self.pack, self.on, self.by = pack, instruments, assistant
        self._keep = keep
        self.test: TestName = "groups"
        self.attempt, self.began = 1, 0.0

    def begin(self, test: TestName, attempt: int) -> None:
        """Begin a test; what is read from now on is of it."""
        self.test, self.attempt, self.began = test, attempt, self.by.now()

    @property
    def at_s(self) -> float:
        """How long the test runs."""
        return max(self.by.now() - self.began, 0.0)

    def keep(
        self,
        what: Quantity,
        place: str,
        reading: Taken,
        amps: float | None = None,
        instrument: str = "",
    ) -> float:
        """Keep a reading the moment it is taken; its value."""
        self._keep(
            ProofReading(
                test=self.test,
                attempt=self.attempt,
                what=what,
                place=place,
                value=reading.value,
                amps=amps,
                at_s=round(self.at_s, 3),
                off=reading.off,
                by=instrument,
                taken=self.by.moment(),
            )
        )
        return reading.value

    def meter(self) -> Multimeter:
        """The meter; raises Stopped where there is none."""
        if self.on.meter is None:
            raise Stopped("This test wants a meter")
        return self.on.meter

    def load(self) -> ElectronicLoad:
        """The load; raises Stopped where there is none."""
        if self.on.load is None:
            raise Stopped("This test wants a load")
        return self.on.load

    def supply(self) -> Supply:
        """The supply; raises Stopped where there is none."""
        if self.on.supply is None:
            raise Stopped("This test wants a supply")
        return self.on.supply

    def volts(self, place: str, amps: float | None = None, as_place: str = "") -> float:
        """Volts at a place, kept, ``as_place`` where that is what they stand for."""
        meter = self.meter()
        self.by.move(place)
        taken = meter.volts()
        return self.keep("volts", as_place or place, taken, amps, meter.as_set)

    def celsius(self, place: str, amps: float | None = None) -> float | None:
        """Temperature at a place, kept; ``None`` without a thermometer. Stops a pack too warm."""
        thermometer = self.on.thermometer
        if thermometer is None:
            return None
        read = thermometer.celsius(CHANNELS[place])
        self.keep("celsius", place, read, amps, thermometer.name)
        if place == "cells" and read.value > self.pack.limit_c:
            raise Stopped(phrase("The cells are at {}: stopped", say(read.value, "°C")))
        return read.value

    def groups(
        self, amps: float | None = None, charging: bool = False, only: Sequence[int] = ()
    ) -> list[float]:
        """Volts of all groups, or of some ``only``, kept; stops where one comes near to harm."""
        found, bms = [], self.on.bms
        for group in only or range(1, self.pack.series + 1):
            place = f"group:{group}"
            if bms is not None:
                volts = self.keep("volts", place, bms.volts(group), amps, bms.name)
            else:
                volts = self.volts(place, amps)
            found.append(volts)
        self._within(found, charging)
        return found

    def _within(self, volts: list[float], charging: bool) -> None:
        pack, board = self.pack, self.pack.board
        most = (board.over_voltage_v if board else pack.full_v / pack.series) + GROUP_OVER_V
        if charging and max(volts) > most:
            raise Stopped(phrase("A group is at {}: stopped", say(max(volts), "V")))
        if not charging and min(volts) < pack.floor_v - GROUP_UNDER_V:
            raise Stopped(phrase("A group is at {}: stopped", say(min(volts), "V")))

    @contextmanager
    def drawing(self, amps: float) -> Iterator[ElectronicLoad]:
        """The load on at a current; off afterwards, whatever happens."""
        load = self.load()
        load.set(amps=amps)
        try:
            load.turn(True)
            yield load
        finally:
            load.turn(False)

    @contextmanager
    def feeding(self, volts: float, amps: float) -> Iterator[Supply]:
        """The supply on, its own protection set first; off afterwards, whatever happens."""
        supply = self.supply()
        supply.protect(PROTECT_OVER * volts)
        supply.set(volts, amps)
        try:
            supply.turn(True)
            yield supply
        finally:
            supply.turn(False)
