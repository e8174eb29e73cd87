"""The reading that would tell most next, for its effort."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.trouble.circuit import FaultyCircuit, expected_at
from lumvak.core.trouble.posterior import (
    CausePosterior,
    circuit_of,
    in_state,
    meter_v,
    predicted,
    seen_apart,
)
from lumvak.core.trouble.readings import FLOWS, SWEEPS, TroubleReading, effort_of

Array = NDArray[np.float64]
BINS = 16
# A reading that tells less than this of what is still open is not worth its effort.
LEAST_BITS = 0.03
# What a wait of a day weighs over one of a minute is in its effort.
DAY_S, MINUTE_S, HOUR_S = 86_400.0, 60.0, 3_600.0
# A current before any group was seen drives one that is flat under empty: so much more is it asked
# for.
GROUPS_SEEN, UNSEEN = ("group", *SWEEPS), 1.0
# Hypotheses less likely than this are not followed in what may be read.
FAINT = 2e-4
# Single places are proposed about so many of the likeliest.
FOLLOWED = 3


# Places that every pack has, with the state, its amount, and whether ohm are read.
USUAL: tuple[tuple[str, str, str, bool], ...] = (
    ("terminals", "rest", "", False),
    ("terminals", "load", "load", False),
    ("terminals", "charge", "charge", False),
    ("terminals", "after", "minute", False),
    ("terminals", "after", "hour", False),
    ("terminals", "asleep", "", False),
    ("pack", "rest", "", False),
    ("pack", "load", "load", False),
    ("groups", "rest", "", False),
    ("groups", "load", "load", False),
    ("groups", "load", "light", False),
    ("connector", "load", "light", False),
    ("terminals", "load", "light", False),
    ("fuse", "load", "light", False),
    ("groups", "after", "day", False),
    ("bms", "load", "load", False),
    ("fuse", "rest", "", True),
    ("fuse", "load", "load", False),
    ("connector", "load", "load", False),
    ("connector", "rest", "", True),
    ("charger", "rest", "", False),
    ("charger", "charge", "charge", False),
    ("bms", "rest", "", False),
    ("bms", "charge", "charge", False),
)  # fmt: skip


class Proposed(Struct, frozen=True):
    """A reading to take: where, in which state, what it likely tells in bits, its effort."""

    place: str
    state: str
    amount: float
    in_ohm: bool
    bits: float
    effort: str
    weight: float

    @property
    def worth(self) -> float:
        """What it tells for its effort."""
        return self.bits / math.sqrt(self.weight)


def proposals(
    now: CausePosterior,
    without: Collection[str] = (),
    taken: Collection[tuple[str, str, float]] = (),
) -> list[Proposed]:
    """Readings that may be taken, the most telling for its effort first.

    ``without`` are places, or kinds of them, that cannot be reached; ``taken`` those that are known
    (place, state, amount).
    """
    made = []
    looked = any(place.partition(":")[0] in GROUPS_SEEN for place, _, _ in taken)
    for place, state, amount, in_ohm in _candidates(now):
        if place in without or place.partition(":")[0] in without or state in without:
            continue
        if (place, state, amount) in taken:
            continue
        bits = gained(now, place, state, amount, in_ohm)
        words, weight = effort_of(place, state)
        if state in FLOWS and not looked:
            weight += UNSEEN
        if state == "after" and amount >= HOUR_S:
            weight += 2.0 if amount < DAY_S else 5.0
        made.append(
            Proposed(place, state, amount, in_ohm=in_ohm, bits=bits, effort=words, weight=weight)
        )
    return sorted(made, key=lambda it: -it.worth)


def _candidates(now: CausePosterior) -> Iterator[tuple[str, str, float, bool]]:
    """Places and states that are worth a look: the whole ones, and those of the likeliest."""
    case, rows = now.case, now.rows
    load, charge, light = case.load_a, case.charge_a, round(0.3 * case.load_a, 1)
    amounts = {
        "": 0.0,
        "load": load,
        "light": light,
        "charge": charge,
        "minute": MINUTE_S,
        "hour": HOUR_S,
        "day": DAY_S,
    }
    for place, state, amount, in_ohm in USUAL:
        yield place, state, amounts[amount], in_ohm
    if case.shows:
        yield "shown", "rest", 0.0, False
        yield "shown", "load", load, False
        yield "shown", "load", light, False
    for name in np.argsort(now.share)[::-1][: 4 * FOLLOWED]:
        where, cause = int(rows.where[name]), rows.names[int(rows.cause[name])]
        if now.share[name] < FAINT:
            break
        if cause.startswith("joint"):
            yield f"joint:{where}", "load", load, False
            yield f"joint:{where}", "load", light, False
            yield f"joint:{where}", "rest", 0.0, True
        elif cause.startswith("tap"):
            yield f"tap:{where}", "rest", 0.0, False
        elif where:
            yield f"group:{where}", "rest", 0.0, False
            yield f"group:{where}", "load", load, False
            yield f"group:{where}", "after", DAY_S, False
            if cause == "bms-misreads" and case.shows:
                yield f"shown:{where}", "rest", 0.0, False
            if cause == "bleed-stuck":
                yield f"group:{where}", "asleep", 0.0, False


def gained(now: CausePosterior, place: str, state: str, amount: float, in_ohm: bool) -> float:
    """By how many bits a reading is likely to lessen what is open (methods 47).

    ``amount`` is the amps or seconds of the state.
    """
    if not in_ohm:
        now = in_state(now, state, amount)
    circuit = circuit_of(now, state, amount)
    kind, _, number = place.partition(":")
    kept = now.share > FAINT * 0.1
    share = now.share[kept] / now.share[kept].sum()
    if place in SWEEPS:
        return _of_sweep(now, circuit, "shown" if place == "shown" else "group", kept, share)
    wanted = expected_at(circuit, kind, int(number or 0), in_ohm)
    noise = meter_v(now.case, np.array([wanted.scale / 1.2]))
    if in_ohm:
        noise = np.array([1e-3])
    mean, variance = predicted(now.state, wanted, noise)
    nothing, jumps = wanted.nothing[kept], wanted.jumps[kept]
    rest = np.clip(1.0 - nothing - jumps, 0.0, 1.0)
    table = _binned(mean[kept], np.sqrt(variance[kept])) * rest[:, None]
    # What lies near none is read as nothing.
    return _mutual(share, np.column_stack((table, nothing, jumps)))


def _binned(mean: Array, wide: Array) -> Array:
    """(n, BINS) shares of a reading in bins that fit where the hypotheses lie."""
    from scipy.special import ndtr

    ends = np.concatenate((mean - 1.0 * wide, mean, mean + 1.0 * wide))
    edges = np.unique(np.quantile(ends, np.linspace(0.0, 1.0, BINS - 1)))
    below = ndtr((edges[None, :] - mean[:, None]) / wide[:, None])
    whole = np.column_stack((np.zeros(len(mean)), below, np.ones(len(mean))))
    return np.asarray(np.diff(whole, axis=1))


def _of_sweep(
    now: CausePosterior, circuit: FaultyCircuit, kind: str, kept: NDArray[np.bool_], share: Array
) -> float:
    """All groups at once: alike, nothing at all, or one of them apart."""
    apart, which = seen_apart(now, circuit, kind)
    nothing = expected_at(circuit, kind, 1).nothing
    sleeps = np.where(now.rows.of("bms-asleep") | (not now.case.shows), nothing, 0.0)
    if kind != "shown":
        sleeps = np.zeros(now.rows.count)
    apart = apart * (1.0 - sleeps)
    table = np.zeros((now.rows.count, now.case.series + 2))
    table[:, 0] = 1.0 - apart - sleeps
    table[np.arange(now.rows.count), which] += apart
    table[:, -1] = sleeps
    return _mutual(share, np.clip(table[kept], 0.0, 1.0))


def _mutual(share: Array, table: Array) -> float:
    """Mutual information in bits of hypotheses (n,) and what is read (n, k)."""
    table = table / np.maximum(table.sum(axis=1, keepdims=True), 1e-12)
    whole = share @ table
    with np.errstate(divide="ignore", invalid="ignore"):
        each = np.where(table > 1e-12, table * np.log2(table), 0.0).sum(axis=1)
        some = whole[whole > 1e-12]
    return float(max(0.0, -(some * np.log2(some)).sum() + (share * each).sum()))


def as_reading(proposed: Proposed) -> TroubleReading:
    """The reading that is proposed, with nothing read yet."""
    return TroubleReading(proposed.place, proposed.state, proposed.amount, in_ohm=proposed.in_ohm)
