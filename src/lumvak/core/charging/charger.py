"""The charger to take: volts, amps and what sets them, where it turns off, and usual slips."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.balancing.groups_run import Groups
from lumvak.core.catalogue.boards import Board, Family
from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.said import Text, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
END_A = Rule("charging.end_a", "The charger turns off under", "A",
             "a tenth of the charge current, as chargers usually do", "methods 33")
AMPS_A = Rule("charging.amps_a", "Charge with at most", "A",
              "the lowest of what cells, BMS, leads, fuse and socket bear", "methods 33")
# fmt: on

# Volts of a charger within this of the right ones are right (methods 33).
TOLERANCE = 0.005
# One that stops under so much charge is for another pack (methods 33).
LEAST_FULL = 0.75
# A cell comes to harm over so many times its full voltage (methods 33).
HARM_OVER: dict[Family, float] = {
    "cobalt": 1.02, "phosphate": 1.03, "sodium": 1.02, "titanate": 1.02,
}  # fmt: skip
# A charger turns off at this share of its current where nobody says.
END_SHARE = 0.1
# What a cell of each family is charged to, in V.
FULL_V: dict[Family, float] = {
    "cobalt": 4.2, "phosphate": 3.65, "sodium": 3.95, "titanate": 2.75,
}  # fmt: skip
MAINS = (
    "The mains part of a charger is left to licensed practice; a certified charger is the better "
    "buy."
)


class ChargeSetting(Struct, frozen=True, eq=False):
    """What a charger must suit.

    ``volts`` is the right charge voltage, ``limits`` what may flow by each thing in the way, of
    which ``by_cells`` is the cells' standard current and ``most_cells`` their maximum. ``group``
    is a group with its share of what lies between cells and charger; ``board`` as it is set.
    ``asked_v`` is the ceiling as the builder has it; one over the cell's own does not count.
    ``celsius`` is how warm the cells are when they are charged, ``senses`` whether the board feels
    it.
    """

    cell: Cell
    family: Family
    behaviour: Behaviour
    series: int
    parallel: int
    ceiling_v: float
    volts: Figure
    by_cells: Figure
    most_cells: Figure
    limits: tuple[Figure, ...]
    group: Groups
    board: Board | None
    asked_v: float
    celsius: float = 25.0
    senses: bool = False

    @property
    def group_ah(self) -> float:
        """Charge of a group from empty to full in Ah."""
        return float(self.group.ah[0])

    @property
    def over_v(self) -> float | None:
        """Volts of a group at which the board ends a charge; ``None`` where none does."""
        board = self.board
        return None if board is None or board.kind == "balancer" else board.over_voltage_v

    @property
    def limit_v(self) -> float:
        """Volts of a cell over which it comes to harm (methods 33)."""
        return self.cell.voltage_full_v * HARM_OVER[self.family]

    @property
    def cuts_off(self) -> bool:
        """Whether a board ends a charge before a cell comes to harm."""
        return self.over_v is not None and self.over_v <= self.limit_v + 1e-9

    def present_v(self, share: float) -> float:
        """Rest voltage in V of the whole pack at a charge, ``share`` from 0 to 1."""
        return self.series * float(self.behaviour.rest(np.array(share)))


class RightCharger(Struct, frozen=True):
    """The charger to take: constant current, then constant voltage.

    ``set_by`` is which of the limits is the lowest.
    """

    volts: Figure
    amps: Figure
    end: Figure
    set_by: Figure
    said: Text


def right_charger(setting: ChargeSetting) -> RightCharger:
    """Volts from count and ceiling; amps, the lowest of what each thing bears (methods 33)."""
    lowest = min((setting.by_cells, *setting.limits), key=lambda limit: limit.number)
    amps = AMPS_A.of(
        lowest.number,
        lowest,
        *(item for item in (setting.by_cells, *setting.limits) if item is not lowest),
    )
    end = END_A.assumed(END_SHARE * amps.number, amps)
    return RightCharger(setting.volts, amps, end, lowest, _named(lowest))


def _named(limit: Figure) -> Text:
    """What sets the current, in a word or two."""
    named: dict[str, Text] = {
        "charge.cells_a": "cells",
        "board.charge_a": "BMS",
        "charge_leads.limit_a": "leads",
        "power.charge_fuse_hold_a": "fuse",
        "charging.socket_a": "socket",
        "power.connector_a": "connector",
    }
    return named.get(limit.key, limit.label)


class VoltsSlip(Struct, frozen=True):
    """Volts that come out where one thing was counted wrongly."""

    code: str
    volts: float
    text: Text


def slips(setting: ChargeSetting) -> tuple[VoltsSlip, ...]:
    """What the volts would be if one slipped (methods 33)."""
    return tuple(
        slip for slip in _slips(setting) if abs(slip.volts / setting.volts.number - 1.0) > TOLERANCE
    )


def _slips(setting: ChargeSetting) -> Iterator[VoltsSlip]:
    series, cell = setting.series, setting.cell
    yield VoltsSlip(
        "nominal",
        series * cell.voltage_nominal_v,
        phrase(
            "the nominal {} in place of the full {}",
            say(cell.voltage_nominal_v, "V"),
            say(setting.ceiling_v, "V"),
        ),
    )
    if setting.parallel > 1:
        yield VoltsSlip(
            "all-cells",
            series * setting.parallel * setting.ceiling_v,
            phrase("all {} cells in place of the {} in series", series * setting.parallel, series),
        )
    yield VoltsSlip(
        "one-more",
        (series + 1) * setting.ceiling_v,
        phrase("{} in series, not {}", series + 1, series),
    )
    if series > 1:
        yield VoltsSlip(
            "one-less",
            (series - 1) * setting.ceiling_v,
            phrase("{} in series, not {}", series - 1, series),
        )
    for family, full_v in FULL_V.items():
        if family != setting.family:
            yield VoltsSlip(
                f"as-{family}",
                series * full_v,
                phrase("{} {} cells, at {} each", series, FAMILY_NAMES[family], say(full_v, "V")),
            )


def slip_of(volts: float, found: Sequence[VoltsSlip]) -> VoltsSlip | None:
    """The slip that volts look like, the nearest within the tolerance."""
    near = [slip for slip in found if abs(volts / slip.volts - 1.0) <= TOLERANCE]
    return min(near, key=lambda slip: abs(volts - slip.volts), default=None)


def swapped_digits(volts: float, right: float) -> bool:
    """Whether two neighbouring digits of the ``right`` volts were swapped."""
    typed, wanted = (f"{value:.1f}".replace(".", "") for value in (volts, right))
    return any(
        one != two and typed == f"{wanted[:place]}{two}{one}{wanted[place + 2 :]}"
        for place, (one, two) in enumerate(pairwise(wanted))
    )


class ChargeStop(NamedTuple):
    """Where a charge stops: the charge of a group, its volts, and what ends it."""

    share: float
    volts: float
    ended_by: str


def stops_share(setting: ChargeSetting, hold_v: float, end_a: float, amps: float) -> ChargeStop:
    """Where a charge stops: charge of a group, its volts, and what ends it.

    Closed form of the run for groups that are alike: the charger's end current at the volts it
    holds, else the board where a group comes to its over-voltage before (methods 34).
    """
    group, series = setting.group, setting.series
    over = setting.over_v
    hold = hold_v / series
    by_board = over is not None and over < hold - end_a * group.path_ohm
    # The board cuts off under the whole current, or in the taper just where its volts are reached.
    volts = min(over, hold) if by_board and over is not None else hold
    current = end_a
    if by_board:
        current = min(amps, max((hold - volts) / max(group.path_ohm, 1e-9), end_a))
    share = 0.9
    for _ in range(8):
        push = setting.behaviour.charge_factor(np.array(share)) * group.ohm[0]
        own = volts - (0.0 if by_board else current * group.path_ohm) - current * float(push)
        surface = float(group.charge_at(np.array(own)))
        lead = setting.behaviour.lag_s * current / 3600.0 / setting.group_ah
        share = surface - lead
    return ChargeStop(share, volts, "board" if by_board else "end current")


def checks_of(charger: Charger, setting: ChargeSetting) -> tuple[Text, ...]:
    """What is to be checked on a charger that was rebuilt, or set by hand."""
    if not charger.rebuilt:
        return ()
    right = right_charger(setting)
    return (
        phrase(
            "With nothing connected: {}, no more, warm and cold, over an hour.",
            say(right.volts.number, "V"),
        ),
        phrase(
            "With a load in place of the pack: no more than {}, down to {}.",
            say(right.amps.number, "A"),
            say(setting.series * setting.cell.voltage_empty_v, "V"),
        ),
        "Polarity at the plug, and that nothing flows back when the mains is off.",
        "Its output is apart from the mains: insulation as the label of a certified one.",
        MAINS,
    )
