"""Packs brought level before they are joined: each at the one voltage that keeps the charge."""

from __future__ import annotations

from collections.abc import Sequence

from lumvak.core.beside.side import PackSide, standing_at

HALVINGS = 80


def levelled(sides: Sequence[PackSide]) -> tuple[PackSide, ...]:
    """The same packs once what the higher has over the lower went into it, none of it lost.

    Through a resistor or a lamp between their plus ends; the volts at which their charges sum up
    to what all had are found by halving.
    """
    had = sum(it.capacity_ah * it.at for it in sides)
    low, high = min(it.emf_v for it in sides), max(it.emf_v for it in sides)
    for _ in range(HALVINGS):
        middle = 0.5 * (low + high)
        holds = sum(it.capacity_ah * it.at_volts(middle) for it in sides)
        low, high = (middle, high) if holds < had else (low, middle)
    volts = 0.5 * (low + high)
    return tuple(standing_at(it, it.at_volts(volts)) for it in sides)
