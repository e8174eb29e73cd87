"""Packs charged in parallel by one charger, or each by one of its own: who is full first."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.beside.side import PackSide, PartCarries, parts_carry

Array = NDArray[np.float64]
# A pack is full once it takes less than this share of its charge an hour, at the charge voltage.
TAIL_C = 0.05
# A charge is followed in so many steps of what it would last at the full current.
STEPS, LONGEST = 4000, 4.0


class ChargedTogether(Struct, frozen=True, eq=False):
    """Packs on a charger: seconds (m,), amps into each (m, k), volts (m,), charges (m, k).

    ``full_s`` (k,) is when each is full, infinite where it never is; ``carried`` what each of its
    parts takes at most.
    """

    seconds: Array
    amps: Array
    volts: Array
    charge: Array
    full_s: tuple[float, ...]
    carried: tuple[PartCarries, ...]

    @property
    def hours(self) -> float:
        """Until all are full."""
        return max(self.full_s) / 3600.0

    @property
    def first(self) -> int:
        """The place of the one that is full first."""
        return int(np.argmin(self.full_s))


def charged_together(
    sides: Sequence[PackSide], charger_a: float, charger_v: float, between_ohm: float = 0.0
) -> ChargedTogether:
    """Charge packs in parallel from where they stand, at a current and then at a voltage.

    All have one voltage at every moment; what flows into each follows from its OCV and its
    resistance (methods 44). Steps are of the middle: a half, then the whole with what flows there.
    """
    packs = list(sides)
    coulombs = np.array([3600.0 * it.capacity_ah for it in packs])
    at = np.array([it.at for it in packs])
    lasts = float((coulombs * np.maximum(1.0 - at, 0.02)).sum()) / charger_a
    step = lasts / STEPS
    rows: list[tuple[float, Array, float, Array]] = []
    full = [math.inf] * len(packs)
    time_s = 0.0
    while time_s <= LONGEST * lasts and math.isinf(max(full)):
        flows, volts = _flows(packs, at, charger_a, charger_v, between_ohm)
        rows.append((time_s, flows, volts, at))
        for place, side in enumerate(packs):
            held = abs(volts - charger_v) <= 1e-9 * charger_v
            ended = held and flows[place] <= TAIL_C * side.capacity_ah
            if ended and math.isinf(full[place]):
                full[place] = time_s
        half = at + 0.5 * step * flows / coulombs
        at = np.minimum(
            at + step * _flows(packs, half, charger_a, charger_v, between_ohm)[0] / coulombs, 1.0
        )
        time_s += step
    amps = np.array([row[1] for row in rows])
    return ChargedTogether(
        np.array([row[0] for row in rows]),
        amps,
        np.array([row[2] for row in rows]),
        np.array([row[3] for row in rows]),
        full_s=tuple(full),
        carried=tuple(
            it
            for place, side in enumerate(packs)
            for it in parts_carry(side, float(amps[:, place].max()), "takes_a", "charging")
        ),
    )


def _flows(
    packs: Sequence[PackSide], at: Array, charger_a: float, charger_v: float, between_ohm: float
) -> tuple[Array, float]:
    """Amps into each, and the volts of all: held amps, unless these are over the held volts."""
    rest = np.array([np.interp(x, it.charge, it.rest_v) for x, it in zip(at, packs, strict=True)])
    ohm = np.array(
        [
            between_ohm + it.ohm * np.interp(x, it.charge, it.shape)
            for x, it in zip(at, packs, strict=True)
        ]
    )
    siemens = 1.0 / ohm
    # A charger gives nothing to packs that stand over it, and takes nothing from them.
    open_v = float((rest * siemens).sum() / siemens.sum())
    volts = max(min(open_v + charger_a / float(siemens.sum()), charger_v), open_v)
    return (volts - rest) * siemens, volts


def charged_apart(
    sides: Sequence[PackSide], chargers: Sequence[tuple[float, float]]
) -> tuple[ChargedTogether, ...]:
    """Each pack by a charger of its own, given by its amps and volts."""
    return tuple(
        charged_together([side], amps, volts)
        for side, (amps, volts) in zip(sides, chargers, strict=True)
    )
