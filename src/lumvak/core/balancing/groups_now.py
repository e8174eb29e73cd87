"""The groups of the pack as they are charged: size, charge, resistance, loss."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.balancing.groups_run import Array, Groups
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.charging import ChargeGroup
from lumvak.core.matching.matched import GroupNow
from lumvak.core.spelling import DAYS_A_MONTH

HOURS_A_DAY = 24.0


class Known(Struct, frozen=True):
    """A value of a group and where it comes from: ``typed``, ``measured``, ``shown``, ``sheet``
    or ``assumed``.
    """

    value: float
    origin: str


class GroupsNow(Struct, frozen=True, eq=False):
    """Groups with the charge in each, as shares of their own capacity (n,).

    ``rest_v`` is what each rests at where that was read.
    """

    groups: Groups
    share: Array
    ah_from: tuple[str, ...]
    share_from: tuple[str, ...]
    rest_v: tuple[float | None, ...] = ()

    @property
    def charge_ah(self) -> Array:
        """What is in each group in Ah (n,)."""
        return np.asarray(self.share * self.groups.ah)

    @property
    def count(self) -> int:
        """How many groups there are."""
        return len(self.share)

    @property
    def measured(self) -> bool:
        """Whether size and charge of every group are known."""
        return not {"sheet", "assumed"} & {*self.ah_from, *self.share_from}


class UsualGroup(Struct, frozen=True):
    """What a group is where nobody says: Ah, ohm, A lost by itself, share, path in ohm."""

    ah: float
    ohm: float
    leak_a: float
    share: float
    path_ohm: float


def month_loss_a(month_loss: float, ah: float) -> float:
    """What cells lose by themselves in A: ``month_loss`` is a share a month (methods 24)."""
    return month_loss * ah / (DAYS_A_MONTH * HOURS_A_DAY)


def groups_now(
    typed: Sequence[ChargeGroup],
    measured: Sequence[GroupNow],
    shown_v: Sequence[float],
    behaviour: Behaviour,
    series: int,
    usual: UsualGroup,
) -> GroupsNow:
    """The groups of a pack: as typed, else as its cells were measured, else as modules show them.

    ``shown_v`` are volts of the last set of group voltages, (n,) or none. Where volts are known of
    some groups alone the others have the mean charge of those.
    """
    rows = [typed[place] if place < len(typed) else None for place in range(series)]
    cells = {item.number: item for item in measured}
    ah, share, ohm, leak = [], [], [], []
    for place, row in enumerate(rows):
        cell = cells.get(place + 1)
        ah.append(_ah(row, cell, usual))
        share.append(_share(row, cell, shown_v[place] if place < len(shown_v) else None, behaviour))
        known = None if cell is None or not cell.siemens else 1.0 / cell.siemens
        scale = usual.ohm if known is None else known
        ohm.append(scale if row is None or row.mohm is None else row.mohm * 1e-3)
        lost = None if row is None else row.leak_ma
        leak.append(usual.leak_a if lost is None else lost * 1e-3)
    there = [item.value for item in share if item is not None]
    middle = Known(float(np.mean(there)) if there else usual.share, "assumed")
    filled = [middle if item is None else item for item in share]
    return GroupsNow(
        Groups(
            behaviour,
            np.array([item.value for item in ah]),
            np.array(ohm),
            np.array(leak),
            usual.path_ohm,
        ),
        np.array([item.value for item in filled]),
        tuple(item.origin for item in ah),
        tuple(item.origin for item in filled),
        tuple(
            _rest_v(row, cells.get(place + 1), shown_v[place] if place < len(shown_v) else None)
            for place, row in enumerate(rows)
        ),
    )


def _rest_v(row: ChargeGroup | None, cell: GroupNow | None, shown_v: float | None) -> float | None:
    """What a group rests at, by whatever was read of it."""
    if row is not None and row.volts is not None:
        return row.volts
    return shown_v if shown_v is not None or cell is None else cell.volts


def _ah(row: ChargeGroup | None, cell: GroupNow | None, usual: UsualGroup) -> Known:
    if row is not None and row.ah is not None:
        return Known(row.ah, "typed")
    if cell is not None and cell.ah is not None:
        return Known(cell.ah, "measured")
    return Known(usual.ah, "sheet")


def _share(
    row: ChargeGroup | None, cell: GroupNow | None, shown_v: float | None, behaviour: Behaviour
) -> Known | None:
    if row is not None and row.share is not None:
        return Known(row.share, "typed")
    sources = (
        (None if row is None else row.volts, "typed"),
        (shown_v, "shown"),
        (None if cell is None else cell.volts, "measured"),
    )
    for volts, origin in sources:
        if volts is not None:
            return Known(float(behaviour.charge_at(np.array(volts))), origin)
    return None
