"""Packs with one or two faults, drawn and read here, apart from what ranks their causes.

Every number is drawn on its own scale, and a reading is what a meter of 0.5 % and two digits would
show at that place of that circuit.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, field

SERIES = (3, 20)
FULL_V = 4.2
DAY_S = 86_400.0
LOAD_A, CHARGE_A = 10.0, 2.0
GROUP_OHM, JOINT_OHM, PART_OHM = 0.012, 0.0004, 0.0015
Read = float | str | tuple[float, ...]
# What holds the output open by itself, at any complaint.
OFF = ("joint-broken", "bms-tripped-low", "bms-latched", "bms-temperature", "bms-asleep",
       "bms-open", "fuse-open", "lead-broken")  # fmt: skip
BLOCKS = ("bms-tripped-high", "thermistor-open", "charge-fuse-open", "charger-dead", "fuse-open",
          "bms-temperature", "joint-broken")  # fmt: skip
# What each fault spoils, and by how much.
SPOILS: dict[str, tuple[tuple[str, float, float], ...]] = {
    "group-flat": (("emf", -1.35, -0.35),),
    "group-weak": (("ohm", 1.6, 3.0), ("emf", -0.07, -0.02)),
    "group-shorted": (("emf", -2.5, -1.0), ("fall", 1.0, 3.0)),
    "group-lost-cell": (("ohm", 1.35, 2.2), ("emf", -0.18, -0.03)),
    "group-leaking": (("emf", -0.32, -0.08), ("fall", 0.05, 0.12)),
    "bleed-stuck": (("emf", -0.35, -0.08), ("fall", 0.18, 0.42)),
    "bms-misreads": (("shown", 0.1, 0.35),),
    "joint-resistive": (("joint", 0.008, 0.04),),
    "fuse-aged": (("fuse", 0.008, 0.03),),
    "connector-worn": (("connector", 0.008, 0.04),),
    "charger-wrong": (("charger", 0.06, 0.2),),
    "charger-early": (("early", 0.015, 0.05),),
}
STRANGE = ("half-low", "half-volts", "scattered", "more-than-its-groups")


@dataclass
class BrokenPack:
    """A pack with its faults; ``read`` is what a meter shows of it."""

    seed: int
    series: int
    faults: tuple[tuple[str, int], ...]
    complaint: str
    draw: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self.draw = draw = random.Random(self.seed)
        names = {name for name, _ in self.faults}
        low = "bms-tripped-low" in names
        rest = draw.uniform(3.03, 3.2) if low else draw.uniform(3.35, 4.1)
        if "bms-tripped-high" in names:
            rest = draw.uniform(4.12, 4.19)
        apart = draw.uniform(0.003, 0.01)
        usual = GROUP_OHM * draw.uniform(0.75, 1.35)
        self.emf = [rest + draw.gauss(0.0, apart) for _ in range(self.series)]
        self.ohm = [usual * draw.gauss(1.0, 0.05) for _ in range(self.series)]
        self.joint = [JOINT_OHM * draw.lognormvariate(0.0, 0.3) for _ in range(self.series)]
        self.part = {
            it: PART_OHM * draw.lognormvariate(0.0, 0.3) for it in ("bms", "fuse", "connector")
        }
        self.gain = 1.0 + draw.uniform(-0.005, 0.005)
        self.fall = [0.0] * self.series
        # What a current leaves behind: groups stand lower for a while, each by its own.
        self.sag, self.sags = [0.0] * self.series, draw.uniform(0.1, 0.6)
        self.shown_off = [draw.gauss(0.0, 0.004) for _ in range(self.series)]
        self.charger_v = self.series * FULL_V * draw.gauss(1.0, 0.003)
        self.slept = draw.random() < 0.6
        for name, where in self.faults:
            self._spoil(name, where)
        self.names = names
        dead = self.complaint == "dead" or bool(names & set(OFF))
        self.on_rest = not dead
        drops = self.complaint == "drops-out" and draw.random() < 0.5
        self.on_load = self.on_rest and not drops
        if self.complaint == "wakes-and-dies":
            self.on_load = self.on_rest and draw.random() < 0.4
        self.takes = self.complaint != "no-charge" and not names & set(BLOCKS)

    def _spoil(self, name: str, where: int) -> None:
        draw, at = self.draw, where - 1
        for what, low, high in SPOILS.get(name, ()):
            by = draw.uniform(low, high)
            if what in ("emf", "fall"):
                row = self.emf if what == "emf" else self.fall
                row[at] += by
            elif what == "ohm":
                self.ohm[at] *= by
            elif what == "shown":
                self.shown_off[at] += draw.choice((-1, 1)) * by
            elif what == "joint":
                self.joint[at] += by
            elif what == "charger":
                self.charger_v *= 1.0 + draw.choice((-1, 1)) * by
            elif what == "early":
                self.charger_v *= 1.0 - by
            else:
                self.part[what] += by
        if name in ("half-low", "scattered"):
            for place in range(self.series):
                if name == "scattered":
                    self.emf[place] += draw.uniform(-0.4, 0.3)
                elif place < self.series // 2:
                    self.emf[place] -= draw.uniform(0.2, 0.9)

    # What flows, and what a meter shows.

    def _conducts(self, amps: float) -> bool:
        """Under load; a light one drops nothing out."""
        return self.on_rest if amps <= 0.35 * LOAD_A else self.on_load

    def _amps(self, state: str, amount: float) -> float:
        if state == "load":
            return amount if self._conducts(amount) else 0.0
        return -amount if state == "charge" and self.takes else 0.0

    def meter(self, volts: float) -> float:
        for top in (6.0, 60.0, 600.0):
            if abs(volts) < top:
                digit = top / 6000.0
                break
        off = self.draw.uniform(-2.0, 2.0)
        return round(volts * self.gain / digit + off) * digit

    def _group_v(self, at: int, state: str, amount: float) -> float:
        amps = self._amps(state, amount)
        if amps:
            self.sag[at] = self.sags * amps * self.ohm[at]
        volts = self.emf[at] - (amps * self.ohm[at] if amps else self.sag[at])
        if state == "after":
            volts -= min(self.fall[at] * amount / DAY_S, 0.9 * self.emf[at])
        return volts

    def _sum(self, count: int, state: str, amount: float) -> float:
        amps = self._amps(state, amount)
        volts = sum(self._group_v(at, state, amount) for at in range(count))
        if "more-than-its-groups" in self.names and count == self.series:
            volts *= 1.2
        return volts - amps * sum(self.joint[: max(count - 1, 0)])

    def _leads(self, state: str, amount: float) -> list[float | str]:
        leads: list[float | str] = [self._sum(it, state, amount) for it in range(self.series + 1)]
        for name, where in self.faults:
            if name == "tap-swapped":
                leads[where], leads[where + 1] = leads[where + 1], leads[where]
            if name == "joint-broken":
                for place in range(where + 1, self.series + 1):
                    leads[place] = "nothing" if self.draw.random() < 0.65 else "jumps"
        for name, where in self.faults:
            if name == "tap-open":
                leads[where] = "nothing" if self.draw.random() < 0.8 else "jumps"
            if name == "tap-corroded" and self.draw.random() < 0.6:
                leads[where] = "jumps"
        return leads

    def _between(self, number: int, state: str, amount: float) -> float | str:
        leads = self._leads(state, amount)
        low, high = leads[number - 1], leads[number]
        broken = [where for name, where in self.faults if name == "joint-broken"]
        if broken and number - 1 in broken:
            return "nothing" if self.draw.random() < 0.65 else "jumps"
        if broken and isinstance(high, str):
            return self._group_v(number - 1, state, amount)
        if isinstance(low, str) or isinstance(high, str):
            return low if isinstance(low, str) else str(high)
        return high - low

    def _told(self, value: float | str) -> float | str:
        return value if isinstance(value, str) else self.meter(value)

    def read(self, place: str, state: str, amount: float, in_ohm: bool) -> Read:
        """What is read; ``nothing`` and ``jumps`` are words."""
        kind, _, text = place.partition(":")
        number = int(text or 0)
        if place in ("groups", "shown"):
            return self._sweep(place, state, amount)
        if in_ohm:
            return self._ohm(kind, number)
        if kind == "group":
            return self._told(self._between(number, state, amount))
        if kind == "shown":
            return self._shown(number, state, amount)
        if kind == "tap":
            return self._told(self._leads(state, amount)[number])
        if kind == "pack":
            broken = "joint-broken" in self.names
            whole = self._sum(self.series, state, amount)
            return self._told(self._leads(state, amount)[-1] if broken else whole)
        if kind == "terminals":
            return self._terminals(state, amount)
        return self._part(kind, number, state, amount)

    def _ohm(self, kind: str, number: int) -> Read:
        if kind == "fuse" and "fuse-open" in self.names:
            return "nothing"
        if kind == "joint" and ("joint-broken", number) in self.faults:
            return "nothing" if self.draw.random() < 0.78 else "jumps"
        ohm = self.joint[number - 1] if kind == "joint" else self.part[kind]
        return ohm * self.draw.gauss(1.0, 0.05) + self.draw.gauss(0.0, 5e-5)

    def _part(self, kind: str, number: int, state: str, amount: float) -> Read:
        amps = self._amps(state, amount)
        if kind == "joint":
            if ("joint-broken", number) in self.faults and state == "load":
                return self._told(sum(self.emf)) if self.draw.random() < 0.7 else "jumps"
            return self._told(abs(amps) * self.joint[number - 1])
        if kind == "charger":
            if state == "charge" and self.takes:
                return self._told(self._sum(self.series, state, amount))
            dead = "charger-dead" in self.names and state != "charge"
            return "nothing" if dead else self._told(self.charger_v)
        return self._across(kind, state, amps, amount)

    def _across(self, kind: str, state: str, amps: float, amount: float) -> float | str:
        if kind == "bms" and "bms-leaky" in self.names and self.draw.random() < 0.6:
            return "jumps"
        if kind == "connector" and "connector-worn" in self.names and self.draw.random() < 0.15:
            return "jumps"
        if kind == "bms" and state == "charge" and not self.takes:
            elsewhere = {"charge-fuse-open", "charger-dead", "fuse-open", "joint-broken"}
            over = 0.0 if self.names & elsewhere else self.charger_v - sum(self.emf)
            return self._told(over)
        off = not self._conducts(amount)
        if state == "load" and off:
            path = self.names & {"fuse-open", "lead-broken", "joint-broken"}
            if kind == "fuse" and "fuse-open" in self.names:
                return self._told(sum(self.emf))
            if kind == "bms" and not path:
                return self._told(sum(self.emf))
            return self._told(0.0)
        return self._told(abs(amps) * self.part[kind])

    def _terminals(self, state: str, amount: float) -> float | str:
        names, draw = self.names, self.draw
        if state == "asleep" and self.slept and "bms-shorted" not in names:
            return "nothing"
        if state == "charge":
            return self._charged(amount)
        shares = self._unsteady(state)
        if shares is not None:
            chance = draw.random()
            if chance < shares[0]:
                return "jumps"
            if chance < sum(shares):
                return "nothing"
            return self._told(self._sum(self.series, "rest", 0.0))
        on = self._conducts(amount) if state == "load" else self.on_rest
        let_go = {"bms-latched": 20.0, "bms-temperature": 1800.0}
        if state == "after":
            on = on or any(amount >= it for name, it in let_go.items() if name in names)
        if not on:
            return "nothing"
        if "connector-worn" in names and draw.random() < (0.4 if state == "load" else 0.2):
            return "jumps"
        amps = self._amps(state, amount)
        volts = self._sum(self.series, state, amount) - amps * sum(self.part.values())
        return self._told(0.5 * volts if "half-volts" in names else volts)

    def _unsteady(self, state: str) -> tuple[float, float] | None:
        """How often an unsteady output jumps, and how often it is nothing."""
        if "bms-leaky" in self.names:
            return (0.8, 0.1) if state != "load" else (0.45, 0.5)
        if "lead-broken" in self.names:
            return 0.38, 0.62
        if "joint-broken" in self.names and self.complaint == "jumps":
            return 0.4, 0.6
        return None

    def _charged(self, amount: float) -> float | str:
        """At the terminals with the charger on."""
        if "charger-dead" in self.names:
            whole = self._sum(self.series, "rest", 0.0)
            return self._told(whole) if self.on_rest else "nothing"
        if not self.takes:
            return self._told(self.charger_v)
        return self._told(self._sum(self.series, "charge", amount))

    def _shown(self, number: int, state: str, amount: float) -> float | str:
        if "bms-asleep" in self.names or (state == "asleep" and self.draw.random() < 0.95):
            return "nothing"
        value = self._between(number, state, amount)
        if isinstance(value, str):
            opened = [where for name, where in self.faults if name == "tap-open"]
            if opened and self.draw.random() < 0.6:
                return self._group_v(number - 1, state, amount) + self.draw.gauss(0.0, 0.8)
            return value
        return round(value + self.shown_off[number - 1], 3)

    def _sweep(self, place: str, state: str, amount: float) -> Read:
        row: list[float] = []
        for number in range(1, self.series + 1):
            if place == "shown":
                value = self._shown(number, state, amount)
                if value == "nothing" and "bms-asleep" in self.names:
                    return "nothing"
            else:
                value = self._told(self._between(number, state, amount))
            row.append(math.nan if isinstance(value, str) else value)
        return tuple(row)
