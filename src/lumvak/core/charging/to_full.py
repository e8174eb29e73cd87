"""Time to full: a charge over time with its phases, what ends it, its band and its cost."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import Array, Bleed, BodyWarmth, Groups, Moment, Sums
from lumvak.core.balancing.phase import (
    FINE,
    MIDDLE,
    Equipment,
    Grain,
    Phase,
    State,
    Trace,
    phase_run,
)

LONGEST_H = 400.0
# What a charger's volts and amps may be off by, and what is shown once of the spreads.
VOLTS_OFF, AMPS_OFF = 0.005, 0.05
PRE_SHARE = 0.1
ENDED = {"end current": "charger", "hot": "temperature", "time": "timer"}
ENDED_WORDS = {
    "charger": "the charger’s end current", "board": "the BMS, at the first full group",
    "temperature": "the temperature", "timer": "the charger’s timer",
    "nobody": "nobody: take it off by hand", "first full group": "the first full group",
}  # fmt: skip


class FullSetting(Struct, frozen=True):
    """With what a charge is simulated: ``hold_v`` of the whole pack, ``None`` for a source of
    current; the board's ``over_v``; ``hot_c`` where the charge must stop; ``pre_v`` under which a
    group is charged slowly. ``over_is`` is what ends the charge at ``over_v``.
    """

    amps: float
    hold_v: float | None
    end_a: float
    timer_h: float | None
    over_v: float | None
    hot_c: float | None
    pre_v: float
    turns_off: bool = True
    over_is: str = "board"


class ChargePhase(Struct, frozen=True):
    """A phase of a charge: its name, hours, and Ah put in."""

    name: str
    hours: float
    ah: float


class Charge(Struct, frozen=True, eq=False):
    """A charge over time, (m,) each: s, V, A, mean charge as a share, degC; groups (m, n).

    ``band_v`` and ``band_a`` (2, m) are what volts and amps may be for the spreads; ``band_h`` the
    hours. ``group_share`` (n,) is where groups stop, ``first`` the one that is at the highest
    volts, from 1.
    """

    seconds: Array
    volts: Array
    amps: Array
    share: Array
    celsius: Array
    group_v: Array
    group_share: Array
    parts: tuple[ChargePhase, ...]
    ended_by: str
    ah: float
    wh: float
    heat_wh: float
    bleed_wh: float
    first: int
    band_v: Array | None = None
    band_a: Array | None = None
    band_h: tuple[float, float] | None = None

    @property
    def hours(self) -> float:
        """How long it takes."""
        return float(self.seconds[-1]) / 3600.0

    @property
    def stops_share(self) -> float:
        """Mean charge where it stops."""
        return float(self.share[-1])

    @property
    def efficiency(self) -> float:
        """What is kept of what goes in."""
        return 1.0 if self.wh <= 0.0 else 1.0 - (self.heat_wh + self.bleed_wh) / self.wh


def charge_run(
    groups: Groups,
    share: Array,
    setting: FullSetting,
    warmth: BodyWarmth,
    bleed: Bleed | None = None,
    grain: Grain = FINE,
) -> Charge:
    """Charge groups from where they stand, ``share`` (n,), until something ends it (methods 34)."""
    having = Equipment(bleed=bleed, warmth=warmth, grain=grain)
    state = State(share.copy(), warmth.ambient_c, np.zeros(len(share), dtype=bool))
    trace, whole, parts = Trace(), Sums(), list[ChargePhase]()
    longest_s = 3600.0 * (LONGEST_H if setting.timer_h is None else setting.timer_h)
    main = Phase(
        setting.amps, longest_s, setting.hold_v, setting.end_a, setting.over_v, hot_c=setting.hot_c
    )
    if float(groups.rest(share)[0].min()) < setting.pre_v:
        slow = replace(main, amps=PRE_SHARE * setting.amps, end_a=None, above_v=setting.pre_v)
        state, whole, _ = phase_run(groups, state, slow, having, trace)
        parts.append(ChargePhase("pre-charge", whole.seconds / 3600.0, whole.ah))
        main = replace(main, longest_s=longest_s - whole.seconds)
    state, sums, why = phase_run(groups, state, main, having, trace)
    whole = whole + sums
    parts.extend(_bulk_and_taper(trace, setting, sum(item.hours for item in parts)))
    ended = ENDED.get(why, setting.over_is)
    if ended == "charger" and not setting.turns_off:
        ended = "nobody"
    seen = trace.moments
    return Charge(
        np.array(trace.seconds),
        np.array([item.volts for item in seen]),
        amps=np.array([item.amps for item in seen]),
        share=np.array([_mean(groups, item) for item in seen]),
        celsius=np.array([item.celsius for item in seen]),
        group_v=np.array([item.group_v for item in seen]),
        group_share=state.charge,
        parts=tuple(parts),
        ended_by=ended,
        ah=whole.ah,
        wh=whole.wh,
        heat_wh=whole.heat_wh,
        bleed_wh=whole.bleed_wh,
        first=int(np.argmax(seen[-1].group_v)) + 1,
    )


def _mean(groups: Groups, item: Moment) -> float:
    return float(item.charge @ groups.ah / groups.ah.sum())


def _bulk_and_taper(trace: Trace, setting: FullSetting, before_h: float) -> Iterator[ChargePhase]:
    """The parts under the whole current and under the held volts, by what was seen."""
    seconds = np.array(trace.seconds) - before_h * 3600.0
    amps = np.array([item.amps for item in trace.moments])
    here = seconds >= -1e-6
    seconds, amps, taken = seconds[here], amps[here], np.array(trace.ah)[here]
    falling = np.flatnonzero(amps < setting.amps * (1.0 - 1e-9))
    turn = (
        int(falling[0]) - 1
        if len(falling) and falling[0] > 0
        else (0 if len(falling) else len(amps) - 1)
    )
    yield ChargePhase("bulk", float(seconds[turn] / 3600.0), float(taken[turn]))
    if turn < len(amps) - 1:
        yield ChargePhase(
            "taper", float((seconds[-1] - seconds[turn]) / 3600.0), float(taken[-1] - taken[turn])
        )


def with_band(
    charge: Charge,
    groups: Groups,
    share: Array,
    setting: FullSetting,
    warmth: BodyWarmth,
    capacity_off: float,
    ohm_off: float,
    bleed: Bleed | None = None,
) -> Charge:
    """A charge with what volts, amps and hours may be (methods 34).

    Groups begin at ``share`` (n,); ``capacity_off`` and ``ohm_off`` are what capacity and
    resistance may be off by, as shares. Each is changed alone, and the charger's volts and amps
    too; what that does at each moment adds up as the root of squares.
    """
    varied = (
        (replace(groups, ah=groups.ah * (1.0 + capacity_off)), setting),
        (replace(groups, ohm=groups.ohm * (1.0 + ohm_off)), setting),
        (
            groups,
            setting
            if setting.hold_v is None
            else replace(setting, hold_v=setting.hold_v * (1.0 - VOLTS_OFF)),
        ),
        (groups, replace(setting, amps=setting.amps * (1.0 - AMPS_OFF))),
    )
    volts, amps, hours = [], [], []
    base = charge_run(groups, share, setting, warmth, bleed, MIDDLE)
    base_v = np.interp(charge.seconds, base.seconds, base.volts)
    base_a = np.interp(charge.seconds, base.seconds, base.amps)
    for changed, other in varied:
        found = charge_run(changed, share, other, warmth, bleed, MIDDLE)
        volts.append(np.interp(charge.seconds, found.seconds, found.volts) - base_v)
        amps.append(np.interp(charge.seconds, found.seconds, found.amps) - base_a)
        hours.append(found.hours - base.hours)
    off_v, off_a = (np.sqrt(np.square(rows).sum(axis=0)) for rows in (volts, amps))
    off_h = float(np.sqrt(np.square(hours).sum()))
    return replace(
        charge,
        band_v=np.array(
            [charge.volts - off_v, _no_more(charge.volts + off_v, setting.hold_v, VOLTS_OFF)]
        ),
        band_a=np.array(
            [
                np.maximum(charge.amps - off_a, 0.0),
                _no_more(charge.amps + off_a, setting.amps, AMPS_OFF),
            ]
        ),
        band_h=(max(charge.hours - off_h, 0.0), charge.hours + off_h),
    )


def _no_more(values: Array, most: float | None, off: float) -> Array:
    """No charger gives more than it is made for and may be off by."""
    return values if most is None else np.minimum(values, most * (1.0 + off))


def cost_of(wh: float, mains_share: float, tariff: float) -> float:
    """What a charge of ``wh`` costs: ``mains_share`` of the mains arrives, a kWh is ``tariff``."""
    return wh / 1000.0 / mains_share * tariff
