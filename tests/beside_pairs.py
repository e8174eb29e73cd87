"""Random pairs of packs, and ways to work them out that are not ours."""

from __future__ import annotations

import random

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from lumvak.core.beside.side import PackSide, SideLimit

Array = NDArray[np.float64]


def straight(
    name: str, empty_v: float, full_v: float, ah: float, ohm: float, at: float = 1.0
) -> PackSide:
    """A pack with a straight curve and one resistance."""
    return PackSide(
        name,
        14,
        "cobalt",
        charge=np.array([0.0, 1.0]),
        rest_v=np.array([empty_v, full_v]),
        shape=np.ones(2),
        capacity_ah=ah,
        ohm=ohm,
        fast_ohm=ohm,
        stop_v=empty_v - 20.0,
        at=at,
    )


def random_pair(seed: int, *, bent: bool) -> tuple[PackSide, PackSide, float]:
    """Two packs that may be in parallel, and a current that both bear; curves bent or straight."""
    draw = random.Random(seed)
    series = draw.randrange(3, 21)
    sides = []
    for name in ("one", "other"):
        ah, points = draw.uniform(2.0, 60.0), 12 if bent else 2
        charge = np.linspace(0.0, 1.0, points)
        # Steep where it is nearly empty, as cells are.
        bend = 0.35 * charge + 0.5 * charge**2 + 0.15 * (1.0 - np.exp(-charge / 0.06))
        rest = series * (3.0 + 1.2 * (bend / bend[-1] if bent else charge))
        gives, takes = draw.uniform(0.3, 4.0) * ah, draw.uniform(0.1, 1.5) * ah
        ohm = series * draw.uniform(0.02, 0.2) / ah
        sides.append(
            PackSide(
                name,
                series,
                "cobalt",
                charge=charge,
                rest_v=rest * draw.uniform(0.995, 1.005),
                shape=1.0 + draw.uniform(0.0, 0.8) * (1.0 - charge) ** 2 * bent,
                capacity_ah=ah,
                ohm=ohm,
                fast_ohm=ohm * draw.uniform(0.6, 1.0),
                stop_v=series * draw.uniform(2.7, 3.2),
                at=draw.uniform(0.75, 1.0),
                limits=(SideLimit("cells", gives, takes), SideLimit("fuse", 0.8 * gives, gives)),
            )
        )
    amps = draw.uniform(0.1, 1.0) * sum(it.capacity_ah for it in sides)
    return sides[0], sides[1], amps


def closed_form(one: PackSide, other: PackSide, amps: float, seconds: Array) -> Array:
    """Amps of the first (m,) of two packs with straight curves, from their equations by hand.

    Both have one voltage: with slopes k in V a coulomb its current tends to what gives both the
    same fall, I·k₂ ÷ (k₁ + k₂), with the time constant (R₁ + R₂) ÷ (k₁ + k₂).
    """
    k_one, k_other = (float(np.ptp(it.rest_v)) / (3600.0 * it.capacity_ah) for it in (one, other))
    ohms = one.ohm + other.ohm
    begins = (one.emf_v - other.emf_v + amps * other.ohm) / ohms
    ends = amps * k_other / (k_one + k_other)
    return np.asarray(ends + (begins - ends) * np.exp(-seconds * (k_one + k_other) / ohms))


def followed(one: PackSide, other: PackSide, amps: float, seconds: float) -> tuple[Array, float]:
    """Charges (2,) and the voltage after a while, by a general solver of differential equations."""
    sides = one, other

    def at(charge: Array) -> tuple[Array, float]:
        rest = np.array(
            [np.interp(q, it.charge, it.rest_v) for q, it in zip(charge, sides, strict=True)]
        )
        ohm = np.array(
            [
                it.ohm * np.interp(q, it.charge, it.shape)
                for q, it in zip(charge, sides, strict=True)
            ]
        )
        volts = (np.sum(rest / ohm) - amps) / np.sum(1.0 / ohm)
        return (rest - volts) / ohm, float(volts)

    ah = np.array([it.capacity_ah for it in sides])
    found = solve_ivp(
        lambda _, charge: -at(charge)[0] / (3600.0 * ah),
        (0.0, seconds),
        np.array([it.at for it in sides]),
        method="LSODA",
        rtol=1e-9,
        atol=1e-12,
        max_step=seconds / 500.0,
    )
    charge = found.y[:, -1]
    return charge, at(charge)[1]
