"""How likely each hypothesis is after the readings so far."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.trouble.case import TroubleCase
from lumvak.core.trouble.circuit import (
    BAD,
    Branch,
    ExpectedReading,
    FaultyCircuit,
    UnknownState,
    expected_at,
    state_of_case,
)
from lumvak.core.trouble.hypotheses import HypothesisRows, prior_of, rows_of
from lumvak.core.trouble.readings import FLOWS, TroubleReading

Array = NDArray[np.float64]
# So likely a reading was slipped: a wrong range, a wrong place. It may show anything then.
SLIP = 0.002
# What is in no list shows what a sound pack does, or anything: so likely anything.
STRANGE = 0.5
ANY_NOTHING, ANY_JUMPS = 0.25, 0.15
# Once a current flowed, groups all rest otherwise than before, by such a share of what it dropped.
DRIFTS = 0.4
# A group that stands so many of its own scatters apart is seen to be other than the rest.
SEEN = 3.5


class SeenApart(NamedTuple):
    """(n,) how likely a sweep of all groups shows one apart, and (n,) which one that is."""

    share: Array
    which: NDArray[np.intp]


class CausePosterior(Struct, frozen=True, eq=False):
    """Hypotheses (n,) with how likely each is, and what is known of the unknown under each.

    ``last`` is the state of the last reading with its amount, ``drawn_a`` the largest current that
    has flowed.
    """

    case: TroubleCase
    complaint: ComplaintName
    rows: HypothesisRows
    share: Array
    state: UnknownState
    last: tuple[str, float] = ("rest", 0.0)
    drawn_a: float = 0.0

    def of(self, name: str) -> float:
        """How likely a cause is, wherever it may be."""
        return float(self.share[self.rows.of(name)].sum())


def begun(case: TroubleCase, complaint: ComplaintName) -> CausePosterior:
    """Before anything is read."""
    rows = rows_of(case.series)
    return CausePosterior(
        case, complaint, rows, share=prior_of(rows, complaint), state=state_of_case(case, rows)
    )


def meter_v(case: TroubleCase, volts: Array) -> Array:
    """Standard deviation (n,) of readings of so many ``volts`` (n,)."""
    top = float(np.max(np.abs(volts))) if np.size(volts) else 0.0
    digit = case.meter.digits * case.meter.digit_v(top)
    return np.asarray((case.meter.share * np.abs(volts) + digit) / math.sqrt(3.0))


def predicted(state: UnknownState, wanted: ExpectedReading, noise_v: Array) -> tuple[Array, Array]:
    """Mean and variance (n,) of a reading under each hypothesis."""
    mean = (wanted.line * state.mean).sum(axis=1) + wanted.more
    spread = np.einsum("ni,nij,nj->n", wanted.line, state.spread, wanted.line)
    return mean, spread + wanted.scatter + noise_v**2


def in_state(now: CausePosterior, state: str, amount: float) -> CausePosterior:
    """Before a reading in a state: where currents flowed since, groups rest otherwise.

    ``amount`` is the amps or seconds of the state.
    """
    flows = amount if state in FLOWS else 0.0
    spread = now.state.spread
    if now.drawn_a and (state, amount) != now.last:
        spread = spread.copy()
        spread[:, 0, 0] += (DRIFTS * now.drawn_a * now.case.group_ohm) ** 2
    return replace(
        now,
        state=UnknownState(now.state.mean, spread),
        last=(state, amount),
        drawn_a=max(now.drawn_a, flows),
    )


def updated(now: CausePosterior, reading: TroubleReading) -> CausePosterior:
    """After one reading more; where a current may flow or not, both are weighed."""
    if not reading.in_ohm:
        now = in_state(now, reading.state, reading.amount)
    if reading.sweeps:
        return _swept(now, reading)
    seen = [_seen(now, reading, circuit) for circuit in _branches(now, reading)]
    if len(seen) == 1:
        own, state = seen[0].own, seen[0].state
    else:
        flowing = _circuit(now, reading).flowing
        parts = (flowing * seen[0].own, (1.0 - flowing) * seen[1].own)
        own = parts[0] + parts[1]
        first = (parts[0] >= parts[1])[:, None]
        state = UnknownState(
            np.where(first, seen[0].state.mean, seen[1].state.mean),
            np.where(first[:, :, None], seen[0].state.spread, seen[1].state.spread),
        )
    after = _weighed(now, own, _anything(reading.value, seen[0].scale), reading.weight)
    return replace(after, state=state)


class _Seen(NamedTuple):
    """How likely a reading is under each hypothesis, and what it teaches of the unknown."""

    own: Array
    state: UnknownState
    scale: float


def _circuit(
    now: CausePosterior, reading: TroubleReading, branch: Branch = "likely"
) -> FaultyCircuit:
    return circuit_of(now, reading.state, reading.amount, branch)


def circuit_of(
    now: CausePosterior, state: str, amount: float, branch: Branch = "likely"
) -> FaultyCircuit:
    """The pack of a posterior in a state; ``amount`` is its amps or seconds."""
    recovers_a = 0.0 if state in FLOWS else now.drawn_a
    return FaultyCircuit(
        now.case, now.rows, now.complaint, state, amount, branch=branch, recovers_a=recovers_a
    )


def _branches(now: CausePosterior, reading: TroubleReading) -> list[FaultyCircuit]:
    if reading.state not in FLOWS or reading.in_ohm:
        return [_circuit(now, reading)]
    return [_circuit(now, reading, "flows"), _circuit(now, reading, "stands")]


def _seen(now: CausePosterior, reading: TroubleReading, circuit: FaultyCircuit) -> _Seen:
    wanted = expected_at(circuit, reading.kind, reading.number, reading.in_ohm)
    value = reading.value
    if value in ("nothing", "jumps"):
        own = wanted.nothing if value == "nothing" else wanted.jumps
        return _Seen(own, now.state, wanted.scale)
    assert isinstance(value, float)
    noise = float(meter_v(now.case, np.array([value]))[0])
    if reading.in_ohm:
        noise = 5e-5 + 0.05 * abs(value)
    mean, variance = predicted(now.state, wanted, np.full(now.rows.count, noise))
    density = np.exp(-0.5 * (value - mean) ** 2 / variance) / np.sqrt(2.0 * math.pi * variance)
    own = density * np.clip(1.0 - wanted.nothing - wanted.jumps, 0.0, 1.0)
    # Volts so near to none as the meter reads them are nothing, where there is nothing.
    least_v = 0.02 * now.case.full_v
    if not reading.in_ohm and abs(value) < least_v and wanted.scale > now.case.full_v:
        own = own + wanted.nothing / (2.0 * least_v)
    return _Seen(own, _learned(now.state, wanted, value, mean, variance), wanted.scale)


def _learned(
    state: UnknownState, wanted: ExpectedReading, value: float, mean: Array, variance: Array
) -> UnknownState:
    """The unknown of each hypothesis after a reading in volts."""
    reach = np.einsum("nij,nj->ni", state.spread, wanted.line)
    gain = reach / variance[:, None]
    # What lies far beyond its scatter teaches nothing of the unknown.
    off = np.clip(value - mean, -4.0 * np.sqrt(variance), 4.0 * np.sqrt(variance))
    return UnknownState(
        state.mean + gain * off[:, None], state.spread - gain[:, :, None] * reach[:, None, :]
    )


def _anything(value: object, scale: float) -> float:
    if value == "nothing":
        return ANY_NOTHING
    if value == "jumps":
        return ANY_JUMPS
    return (1.0 - ANY_NOTHING - ANY_JUMPS) / scale


def _weighed(now: CausePosterior, own: Array, anything: float, weight: float) -> CausePosterior:
    """Shares after a likelihood; a doubted reading weighs less."""
    likely = (1.0 - SLIP) * own + SLIP * anything
    strange = now.rows.of("something-else")
    sound = float(own[now.rows.of("sound")][0])
    likely[strange] = (1.0 - STRANGE) * sound + STRANGE * anything
    share = now.share * np.maximum(likely, 1e-300) ** weight
    return replace(now, share=share / share.sum())


def seen_apart(now: CausePosterior, circuit: FaultyCircuit, kind: str) -> SeenApart:
    """What a sweep of all groups shows, under each hypothesis."""
    rows, case = now.rows, now.case
    most, which = np.zeros(rows.count), np.zeros(rows.count, dtype=np.intp)
    sound = int(np.flatnonzero(rows.of("sound"))[0])
    for number in range(1, case.series + 1):
        wanted = expected_at(circuit, kind, number)
        tight = 2.0 * case.meter.digits * case.meter.digit_v(case.full_v)
        usual = math.sqrt(float(wanted.scatter[sound]) + tight**2 / 3.0)
        level = now.state.mean[:, 0] + wanted.line[:, 1] * now.state.mean[:, 1]
        mean = (wanted.line * now.state.mean).sum(axis=1) + wanted.more
        # What is not known of all of them is common to all.
        own = wanted.line.copy()
        own[:, 0], own[:, 1] = own[:, 0] - 1.0, 0.0
        spread = np.einsum("ni,nij,nj->n", own, now.state.spread, own)
        wide = np.sqrt(np.maximum(spread, 0.0) + wanted.scatter + tight**2 / 3.0)
        off = mean - level
        limit = SEEN * usual
        odd = 1.0 - (_phi((limit - off) / wide) - _phi((-limit - off) / wide))
        odd = 1.0 - (1.0 - odd) * (1.0 - wanted.nothing) * (1.0 - wanted.jumps)
        more = odd > most
        most, which = np.where(more, odd, most), np.where(more, number, which)
    return SeenApart(most, which)


def _phi(x: Array) -> Array:
    from scipy.special import ndtr

    return np.asarray(ndtr(x))


def _swept(now: CausePosterior, reading: TroubleReading) -> CausePosterior:
    """After all groups were read one after the other: their common error counts once."""
    kind = "shown" if reading.place == "shown" else "group"
    circuit = _circuit(now, reading)
    value = reading.value
    if value in ("nothing", "jumps"):
        seen = _seen(now, replace(reading, place=f"{kind}:1"), circuit)
        return _weighed(now, seen.own, _anything(value, seen.scale), reading.weight)
    if value == "alike":
        apart, _ = seen_apart(now, circuit, kind)
        return _weighed(now, 1.0 - apart, 0.3, reading.weight)
    assert isinstance(value, tuple)
    case = now.case
    gain = case.meter.share * case.rest_v / math.sqrt(3.0)
    spread = now.state.spread.copy()
    spread[:, 0, 0] += gain**2
    now = replace(now, state=UnknownState(now.state.mean, spread))
    tight = np.full(
        now.rows.count, case.meter.digits * case.meter.digit_v(case.full_v) / math.sqrt(3.0)
    )
    own = np.ones(now.rows.count)
    state, log = now.state, np.zeros(now.rows.count)
    strange = 0.0
    sound = int(np.flatnonzero(now.rows.of("sound"))[0])
    for number, volts in enumerate(value, 1):
        wanted = expected_at(circuit, kind, number)
        anything = _anything(volts, wanted.scale)
        if math.isnan(volts):
            likely = wanted.nothing + wanted.jumps
            anything = ANY_NOTHING + ANY_JUMPS
        else:
            mean, variance = predicted(state, wanted, tight)
            likely = np.exp(-0.5 * (volts - mean) ** 2 / variance) / np.sqrt(
                2.0 * math.pi * variance
            )
            likely = likely * np.clip(1.0 - wanted.nothing - wanted.jumps, 0.0, 1.0)
            state = _learned(state, wanted, volts, mean, variance)
        likely = (1.0 - SLIP) * likely + SLIP * anything
        strange += math.log(
            max((1.0 - STRANGE) * float(likely[sound]) + STRANGE * anything, 1e-300)
        )
        log += np.log(np.maximum(likely, 1e-300))
    # What is in no list leaves all groups as they would be, or any of them strange.
    log[now.rows.of("something-else")] = np.logaddexp(
        math.log(1.0 - STRANGE) + log[sound], math.log(STRANGE) + strange
    )
    own = np.exp(reading.weight * (log - log.max()))
    share = now.share * own
    return replace(now, share=share / share.sum(), state=state)


def along(
    case: TroubleCase, complaint: ComplaintName, readings: Sequence[TroubleReading]
) -> Iterator[CausePosterior]:
    """Before anything was read, and after each reading; struck ones have no weight."""
    now = begun(case, complaint)
    yield now
    for reading in readings:
        if reading.weight > 0.0:
            now = updated(now, reading)
        yield _of_right_sign(now)


def _of_right_sign(now: CausePosterior) -> CausePosterior:
    """A fault that would have to be better than none is none: the share that has its sign."""
    share = now.share.copy()
    for name, (middle, off) in BAD.items():
        if middle == 0.0:
            continue
        rows = np.flatnonzero(now.rows.of(name))
        column = now.rows.column(name)[rows]
        sign = math.copysign(1.0, middle)
        wide = np.sqrt(np.maximum(now.state.spread[rows, column, column], 1e-18))
        share[rows] *= _phi(sign * now.state.mean[rows, column] / wide) / _phi(
            np.array(abs(middle) / off)
        )
    return replace(now, share=share / share.sum())
