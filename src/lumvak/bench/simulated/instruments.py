"""What the simulated instruments understand, and how far they are off (methods 42)."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from lumvak.bench.simulated.pack import SEEDS, SetSource, SimulatedPack
from lumvak.bench.simulated.scpi import (
    Interpreter,
    ScpiCommand,
    channel_of,
    command,
    no_good,
    number_of,
    switch_of,
)
from lumvak.core.proving.expected import AMP_A, AMP_SHARE, KELVIN, TOLD_V, VOLT_SHARE, VOLT_V

VERSION = "1"
CHANNELS = ("air", "cells", "strip", "lead")
# The longest wait in s.
LONGEST_S = 1e8
# Group voltages of a BMS jitter by this, in V.
BMS_NOISE_V = 0.001
KELVIN_NOISE = 0.05
# Ranges of the simulated meter.
RANGES_V = (0.1, 1.0, 10.0, 100.0, 1000.0)
# What is said where there is no way, and where there is no number (SCPI).
NONE_OHM, NO_NUMBER = 9.9e37, 9.91e37
NAMES = ("meter", "supply", "load", "thermometer", "bms")


class Bench:
    """A simulated pack, what its instruments are off by, and the time that passes."""

    def __init__(self, pack: SimulatedPack, seed: int, passed: Callable[[], float]) -> None:
        self.pack, self.passed = pack, passed
        self.noise = np.random.default_rng(SEEDS * seed + 2)
        self.volt_gain = 1.0 + VOLT_SHARE * self.normal()
        self.amp_gain = {name: 1.0 + AMP_SHARE * self.normal() for name in ("supply", "load")}
        self.kelvin = {name: KELVIN * self.normal() for name in CHANNELS}
        self.group_v = TOLD_V * self.noise.standard_normal(pack.pack.series)
        self.probe = "pack"

    def normal(self) -> float:
        """A draw from the normal distribution."""
        return float(self.noise.standard_normal())

    def catch_up(self) -> None:
        """Let the time pass that has passed."""
        if (seconds := self.passed()) > 0.0:
            self.pack.advance(seconds)


def interpreters(bench: Bench) -> dict[str, Interpreter]:
    """An interpreter for each instrument of a bench, by its name."""
    own = {
        "meter": _meter(bench),
        "supply": _source(bench, "supply", bench.pack.supply),
        "load": _source(bench, "load", bench.pack.load),
        "thermometer": _thermometer(bench),
        "bms": _bms(bench),
    }
    return {name: _common(bench, name, commands) for name, commands in own.items()}


def _common(bench: Bench, name: str, own: list[ScpiCommand]) -> Interpreter:
    def wait(text: str) -> None:
        bench.pack.advance(number_of(text, 0.0, LONGEST_S))

    def plug(text: str) -> None:
        bench.pack.plug_charger(switch_of(text))

    def press(_: str) -> None:
        bench.pack.press()

    def reset(_: str) -> None:
        if name == "supply":
            bench.pack.supply.on = False
        if name == "load":
            bench.pack.load.on = False

    made = Interpreter(())
    made.commands = (
        command("*IDN?", lambda _: f"Lumvak,simulated {name},0,{VERSION}"),
        command("*RST", reset),
        command("*CLS", lambda _: made.errors.clear()),
        command("*OPC?", lambda _: "1"),
        command("SYSTem:ERRor[:NEXT]?", lambda _: made.next_error()),
        command("SIMulate:WAIT", wait),
        command("SIMulate:CHARger", plug),
        command("SIMulate:CHARger?", lambda _: str(int(bench.pack.charger.on))),
        command("SIMulate:BUTTon", press),
        *own,
    )
    return made


def _told(value: float) -> str:
    return f"{value:.6E}"


def _meter(bench: Bench) -> list[ScpiCommand]:
    def probe(text: str) -> None:
        place = text.strip().strip('"').lower()
        try:
            bench.pack.volts_at(place)
        except KeyError:
            raise no_good() from None
        bench.probe = place

    def volts(_: str) -> str:
        true = bench.pack.volts_at(bench.probe)
        return _told(true * bench.volt_gain + VOLT_V * bench.normal())

    def ohm(_: str) -> str:
        """Of a part or a joint; over range where there are volts, or no way."""
        try:
            return _told(bench.pack.ohm_at(bench.probe))
        except KeyError:
            return _told(NONE_OHM)

    def range_(_: str) -> str:
        """The smallest of its ranges that holds what its probes are on."""
        true = abs(bench.pack.volts_at(bench.probe))
        return _told(next(it for it in RANGES_V if true <= it))

    return [
        command("MEASure[:VOLTage][:DC]?", volts),
        command("[SENSe:]VOLTage[:DC]:RANGe?", range_),
        command("MEASure:RESistance?", ohm),
        command("ROUTe:PROBe", probe),
        command("ROUTe:PROBe?", lambda _: bench.probe),
    ]


def _source(bench: Bench, name: str, source: SetSource) -> list[ScpiCommand]:
    def set_volts(text: str) -> None:
        source.volts = number_of(text, 0.0, source.most_v)

    def set_amps(text: str) -> None:
        source.amps = number_of(text, 0.0, source.most_a)

    def protect(text: str) -> None:
        source.most_v = number_of(text, 0.0, 1000.0)

    def turn(text: str) -> None:
        source.on = switch_of(text)
        # What a BMS waits for may have come.
        bench.pack.advance(1e-3)

    def amps() -> float:
        flow = bench.pack.through_a if source.on else 0.0
        flow = flow if name == "load" else -flow
        return flow if flow > 0.0 else 0.0

    def read_volts(_: str) -> str:
        true = bench.pack.volts_at("terminals")
        return _told(true * bench.volt_gain + VOLT_V * bench.normal())

    def read_amps(_: str) -> str:
        flow = amps()
        return _told(flow * bench.amp_gain[name] + AMP_A * bench.normal() if flow else 0.0)

    def is_on(_: str) -> str:
        if name == "supply" and bench.pack.volts_at("terminals") > source.most_v + 1e-9:
            source.on = False
        return str(int(source.on))

    where = "OUTPut" if name == "supply" else "INPut"
    return [
        command("[SOURce:]VOLTage:PROTection[:LEVel]", protect),
        command("[SOURce:]VOLTage:PROTection[:LEVel]?", lambda _: _told(source.most_v)),
        command("[SOURce:]VOLTage[:LEVel]", set_volts),
        command("[SOURce:]VOLTage[:LEVel]?", lambda _: _told(source.volts)),
        command("[SOURce:]CURRent[:LEVel]", set_amps),
        command("[SOURce:]CURRent[:LEVel]?", lambda _: _told(source.amps)),
        command(f"{where}[:STATe]", turn),
        command(f"{where}[:STATe]?", is_on),
        command("MEASure:VOLTage[:DC]?", read_volts),
        command("MEASure:CURRent[:DC]?", read_amps),
    ]


def _thermometer(bench: Bench) -> list[ScpiCommand]:
    def celsius(text: str) -> str:
        place = channel_of(text) if text else 1
        if not 1 <= place <= len(CHANNELS):
            raise no_good()
        name = CHANNELS[place - 1]
        true = bench.pack.celsius_at(name)
        return _told(true + bench.kelvin[name] + KELVIN_NOISE * bench.normal())

    return [command("MEASure[:TEMPerature]?", celsius)]


def _bms(bench: Bench) -> list[ScpiCommand]:
    def volts(text: str) -> str:
        place = channel_of(text)
        if not 1 <= place <= bench.pack.pack.series:
            raise no_good()
        if not bench.pack.bms.awake:
            return _told(NO_NUMBER)
        true = bench.pack.told_v(place)
        off = float(bench.group_v[place - 1]) + BMS_NOISE_V * bench.normal()
        return _told(true + off)

    def status(_: str) -> str:
        bms = bench.pack.bms
        if not bms.awake:
            return "ASLEEP"
        states = f"CHARGE {int(bms.charges)},DISCHARGE {int(bms.discharges)}"
        return f"{states},{bms.why.upper()}" if bms.why else states

    def amps(_: str) -> str:
        return _told(bench.pack.through_a)

    return [
        command("MEASure:VOLTage[:DC]?", volts),
        command("MEASure:CURRent[:DC]?", amps),
        command("STATus?", status),
    ]
