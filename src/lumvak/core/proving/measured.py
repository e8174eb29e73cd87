"""What the readings of a test come to: the figures that are held against what is expected."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.proving import ProofReading, Proving, TestName
from lumvak.core.proving.expected import AMP_A, AMP_SHARE, KELVIN, VOLT_SHARE, VOLT_V, worst_over
from lumvak.core.proving.programme import (
    EASES_S,
    eases_s,
    standard_error,
    through_origin,
    weights_at_top,
)

Array = NDArray[np.float64]
# A current under this share of the largest of a test is none.
NO_SHARE = 0.02
# Two thermometers read beside each other while cool are off by so much; cells may have been
# warmer than the air even then.
COOL_OFF_K, CELLS_OFF_K = 0.14, 0.25
# A rise on a line of several is off by what two readings scatter.
SCATTER_K = 0.075


class Measured(Struct, frozen=True):
    """A figure as measured, and the standard deviation of what it may be off by."""

    value: float
    off: float


Readings = Sequence[ProofReading]


def counted(proving: Proving, test: TestName) -> Readings:
    """The readings of the attempt of a test that counts: the last, or the one that was chosen."""
    attempt = attempt_of(proving, test)
    return [it for it in proving.readings if it.test == test and it.attempt == attempt]


def attempt_of(proving: Proving, test: TestName) -> int:
    """Which attempt of a test counts; 0 where none does."""
    chosen = next((it.attempt for it in proving.counts if it.test == test), None)
    if chosen is not None:
        return chosen
    return last_attempt(proving.readings, test)


def last_attempt(readings: Iterable[ProofReading], test: TestName) -> int:
    """The last attempt of a test; 0 where there is none."""
    return max((it.attempt for it in readings if it.test == test), default=0)


def measured(proving: Proving) -> Mapping[str, Measured]:
    """What was measured, by the key of its observable; without those that were not."""
    found: dict[str, Measured] = {}
    for test, way in WAYS.items():
        readings = counted(proving, test)
        if readings:
            for name, value in way(readings):
                found[f"{test}.{name}"] = value
    return found


def off_of(reading: ProofReading) -> float:
    """The standard deviation of what a reading may be off by, as usual where nobody says."""
    if reading.off is not None:
        return reading.off
    size = abs(reading.value)
    return {
        "volts": VOLT_SHARE * size + VOLT_V,
        "amps": AMP_SHARE * size + AMP_A,
        "celsius": KELVIN,
    }.get(reading.what, AMP_SHARE * size)


def pair_off(one: ProofReading, other: ProofReading) -> float:
    """The same of the difference of two readings: what one meter is off by in both drops out."""
    offs = [off_of(it) for it in (one, other)]
    if one.by and one.by == other.by:
        shares = (VOLT_SHARE * abs(it.value) for it in (one, other))
        offs = [max(off - share, 0.05 * off) for off, share in zip(offs, shares, strict=True)]
    return math.hypot(*offs)


Figures = Iterable[tuple[str, Measured]]


def _at(readings: Readings, what: str, place: str = "") -> Readings:
    return [it for it in readings if it.what == what and (not place or it.place == place)]


def _groups(readings: Readings) -> Readings:
    """The last reading of each group."""
    last = {it.place: it for it in readings if it.what == "volts" and it.place.startswith("group:")}
    return list(last.values())


def _insulation(readings: Readings) -> Figures:
    case = _at(readings, "volts", "case")
    if case:
        worst = max(case, key=lambda it: abs(it.value))
        yield "case_v", Measured(abs(worst.value), off_of(worst))


def _asleep(readings: Readings) -> Figures:
    output = _at(readings, "volts", "terminals")
    if output:
        yield "output_v", Measured(abs(output[0].value), off_of(output[0]))


def _spread(readings: Readings) -> Figures:
    groups = _groups(readings)
    if len(groups) > 1:
        volts = [it.value for it in groups]
        off = math.sqrt(2.0) * max(off_of(it) for it in groups)
        yield "spread_v", Measured(max(volts) - min(volts), off)


def _total(readings: Readings) -> Figures:
    groups, whole = _groups(readings), _at(readings, "volts", "pack")
    if groups and whole:
        off = math.hypot(off_of(whole[-1]), *(off_of(it) for it in groups))
        yield "difference_v", Measured(sum(it.value for it in groups) - whole[-1].value, off)


def _most_a(readings: Readings) -> float:
    return max((abs(it.amps or 0.0) for it in readings), default=0.0)


def stair_levels(readings: Readings) -> tuple[Readings, Readings]:
    """Volts of the pack at each level of a staircase, and the first after each with the load off.

    The second may be one shorter: of a level that was not ended.
    """
    most = _most_a(readings)
    on: list[ProofReading] = []
    off: list[ProofReading] = []
    for pack in _at(readings, "volts", "pack"):
        if pack.amps is None:
            continue
        if pack.amps > NO_SHARE * most:
            on.append(pack)
        elif len(on) > len(off):
            off.append(pack)
    return on, off


def _stairs(readings: Readings) -> Figures:
    """Ohm by regression of drops on currents, what comes back, and the rises by their lines."""
    most = _most_a(readings)
    on, off = stair_levels(readings)
    terminals = [
        it for it in _at(readings, "volts", "terminals") if (it.amps or 0.0) > NO_SHARE * most
    ]
    out = [min(terminals, key=lambda it: _apart(it, one), default=None) for one in on]
    pairs = list(zip(on, off, strict=False))
    if pairs:
        amps = [one.amps or 0.0 for one, _ in pairs]
        drops = [rest.value - one.value for one, rest in pairs]
        error = pair_off(*pairs[-1])
        yield "pack_mohm", _through_origin(amps, drops, error)
    paths = [(one, end) for one, end in zip(on, out, strict=True) if end is not None]
    if paths:
        amps = [one.amps or 0.0 for one, _ in paths]
        drops = [one.value - end.value for one, end in paths]
        error = pair_off(*paths[-1])
        yield "path_mohm", _through_origin(amps, drops, error)
    yield from _eased(readings)
    yield from _rises(readings, (("cells_k", "cells", "air"),))
    for name, place, over in (("strip_k", "strip", "cells"), ("leads_k", "lead", "air")):
        yield from _by_square(readings, name, place, over)


def _eased(readings: Readings) -> Figures:
    """What comes back once the last level is off, by its three readings, and how fast."""
    packs = _at(readings, "volts", "pack")
    levels = [at for at, it in enumerate(packs) if it.amps]
    after = packs[levels[-1] + 1 :] if levels else []
    if len(after) < 3:
        return
    amps, volts = packs[levels[-1]].amps or 0.0, np.array([it.value for it in after[:3]])
    off = pair_off(after[0], after[1])
    first, second = np.diff(volts)
    yield "eased_mohm", Measured(1e3 * float(volts[2] - volts[0]) / amps, 1e3 * off / amps)
    constant = float(eases_s(volts[None, :])[0])
    if math.isfinite(constant):
        share = off * math.hypot(1.0 / first, 1.0 / second)
        yield "eased_s", Measured(constant, constant * constant / EASES_S * share)


def _by_square(readings: Readings, name: str, place: str, over: str) -> Figures:
    """The rise at the last level, by a line through those at all against the current's square."""
    warm, base = _at(readings, "celsius", place), _at(readings, "celsius", over)
    pairs = [(it, min(base, key=lambda at: _apart(it, at))) for it in warm] if base else []
    levels = [(one, other) for one, other in pairs if one.amps]
    if not levels:
        # Nobody said what flowed, or nothing did.
        yield from _rises(readings, ((name, place, over),))
        return
    cool = [(one, other) for one, other in pairs if not one.amps][-1:]
    rises = [one.value - other.value for one, other in (*cool, *levels)]
    # Nobody read them while cool: they are taken to have shown the same.
    rises = rises if cool else [0.0, *rises]
    weights = weights_at_top(np.array([0.0, *(one.amps or 0.0 for one, _ in levels)]))
    off = SCATTER_K * float(np.linalg.norm(weights))
    if not cool:
        off = math.hypot(off, weights[0] * math.hypot(*(off_of(it) for it in levels[-1])))
    yield name, Measured(float(weights @ rises), off)


def _apart(one: ProofReading, other: ProofReading) -> float:
    return abs((one.at_s or 0.0) - (other.at_s or 0.0))


def _through_origin(amps: Sequence[float], volts: Sequence[float], error_v: float) -> Measured:
    """Milliohm by regression through the origin, with its standard error (methods 42)."""
    currents, drops = np.array(amps), np.array(volts)
    square = float(currents @ currents)
    ohm = float(through_origin(currents, drops))
    off = max(standard_error(currents, drops), error_v / math.sqrt(square))
    return Measured(1e3 * ohm, 1e3 * math.hypot(off, AMP_SHARE * ohm))


def _rises(readings: Readings, wanted: Sequence[tuple[str, str, str]]) -> Figures:
    for name, place, over in wanted:
        warm, base = _at(readings, "celsius", place), _at(readings, "celsius", over)
        if not warm or not base:
            continue
        last = warm[-1]
        if last.amps == 0.0:
            # It was read cool alone.
            continue
        near = min(base, key=lambda it: _apart(it, last))
        rise, off = last.value - near.value, math.hypot(off_of(last), off_of(near))
        cool = [it for it in warm if not it.amps], [it for it in base if not it.amps]
        if last.amps and all(cool):
            # Read cool before: what two thermometers differ by drops out.
            rise -= cool[0][-1].value - cool[1][-1].value
            off = min(off, CELLS_OFF_K if place == "cells" else COOL_OFF_K)
        yield name, Measured(rise, off)


def _drops(readings: Readings) -> Figures:
    """Milliohm of each part and joint: its drop over the current that flowed."""

    def ohm(place: str) -> Measured | None:
        read = [it for it in _at(readings, "volts", place) if it.amps]
        if not read:
            return None
        amps = [abs(it.amps or 0.0) for it in read]
        return _through_origin(amps, [abs(it.value) for it in read], off_of(read[-1]))

    for part in ("fuse", "bms", "connector"):
        if (found := ohm(part)) is not None:
            yield f"{part}_mohm", found
    places = dict.fromkeys(it.place for it in readings if it.place.startswith("joint:"))
    joints = [found for place in places if (found := ohm(place)) is not None]
    if joints:
        values = [it.value for it in joints]
        off = math.hypot(*(it.off for it in joints)) / len(joints)
        yield "joint_mohm", Measured(sum(values) / len(values), off)
        if len(values) > 1:
            worst = float(worst_over(np.array([values]))[0])
            yield "worst", Measured(worst, worst * joints[0].off / max(values))


def _trip_a(readings: Readings) -> Figures:
    """The current at which it opened: between the last that flowed and the one that did not.

    Where none flowed at all, between none and the one that was asked for.
    """
    amps = _at(readings, "amps")
    most = max((it.value for it in amps), default=0.0)
    flowed = [it for it in amps if it.value > NO_SHARE * most]
    opened = [it for it in amps if it.value <= NO_SHARE * most]
    if not opened:
        return
    last = max(flowed, key=lambda it: it.value, default=opened[-1])
    asked = opened[-1].amps
    step = max((last.value if asked is None else asked) - last.value, 0.0)
    off = math.hypot(off_of(last), step / math.sqrt(12.0))
    if flowed or step:
        yield "trip_a", Measured(last.value + step / 2.0, off)


def _charger_stop(readings: Readings) -> Figures:
    volts = _at(readings, "volts", "charger")
    if volts:
        most = max(volts, key=lambda it: it.value)
        yield "stop_v", Measured(most.value, off_of(most))


def _trip_v(highest: bool) -> Callable[[Readings], Figures]:
    def way(readings: Readings) -> Figures:
        """Volts of the group that opened it, read last while current flowed."""
        groups = [
            it
            for it in readings
            if it.place.startswith("group:") and it.what == "volts" and it.amps
        ]
        opened = [it for it in _at(readings, "amps") if it.value == 0.0]
        if groups and opened:
            choose = max if highest else min
            found = choose(groups, key=lambda it: it.value)
            yield "trip_v", Measured(found.value, off_of(found))

    return way


def _emptied(readings: Readings) -> Figures:
    for name in ("ah", "wh"):
        if taken := _at(readings, name):
            yield name, Measured(taken[-1].value, off_of(taken[-1]))
    if _at(readings, "ah"):
        yield from _rises(readings, (("warm_k", "cells", "air"),))


def _surge(readings: Readings) -> Figures:
    """The highest peak."""
    if peaks := _at(readings, "amps"):
        most = max(peaks, key=lambda it: it.value)
        yield "peak_a", Measured(most.value, off_of(most))


def _lost(readings: Readings) -> Figures:
    """The most that a group lost in a day, from first and last readings of each."""
    rates = []
    for place in {it.place for it in readings if it.place.startswith("group:")}:
        own = sorted(_at(readings, "volts", place), key=lambda it: it.at_s or 0.0)
        days = ((own[-1].at_s or 0.0) - (own[0].at_s or 0.0)) / 86_400.0
        if days > 0.0:
            off = math.hypot(off_of(own[0]), off_of(own[-1]))
            rates.append(Measured(1e3 * (own[0].value - own[-1].value) / days, 1e3 * off / days))
    if rates:
        yield "mv_day", max(rates, key=lambda it: it.value)


WAYS: dict[TestName, Callable[[Readings], Figures]] = {
    "insulation": _insulation,
    "asleep": _asleep,
    "groups": _spread,
    "total": _total,
    "staircase": _stairs,
    "drops": _drops,
    "over-current": _trip_a,
    "full-charge": _spread,
    "charger-stop": _charger_stop,
    "over-voltage": _trip_v(True),
    "full-discharge": _emptied,
    "under-voltage": _trip_v(False),
    "self-discharge": _lost,
    "surge": _surge,
}
