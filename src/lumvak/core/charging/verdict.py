"""A charger in hand: right, short, leaning on the board, or wrong; and what to take instead."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from lumvak.core.catalogue.chargers import CHARGER_KINDS, Charger
from lumvak.core.charging.charger import (
    CHEMISTRY_NAMES,
    END_SHARE,
    FULL_V,
    TOLERANCE,
    ChargeSetting,
    right_charger,
    slip_of,
    slips,
    stops_share,
    swapped_digits,
)
from lumvak.core.units import say

VerdictKind = Literal["right", "short", "leans", "wrong"]
KIND_WORDS: dict[VerdictKind, str] = {
    "right": "right",
    "short": "stops short",
    "leans": "leans on the board",
    "wrong": "wrong",
}
WORST: tuple[VerdictKind, ...] = ("right", "short", "leans", "wrong")
# Volts so far over the pack's are those of something else.
OTHER_OVER, OTHER_NEAR, FAR_OVER = 0.05, 0.015, 0.15
# A board's switches stand so many times what it cuts off at, where its sheet is silent.
SWITCHES_OVER = 1.4
# An equalise stage of a charger for lead over its absorption; float under it, as shares.
EQUALISE_OVER, FLOAT_UNDER = 15.5 / 14.4, 13.6 / 14.4
# From here on what is missing is within what a meter tells.
PRACTICALLY = 0.995
MAINS = (
    "The mains part of a charger is left to licensed practice; a certified charger is the better "
    "buy."
)


@dataclass(frozen=True, slots=True)
class Reason:
    """One thing about a charger, with the verdict that it alone would make."""

    kind: VerdictKind
    code: str
    text: str


@dataclass(frozen=True, slots=True)
class ChargerVerdict:
    """What is to be said of a charger.

    ``stops_share`` is where it stops, ``stops_v`` the volts of a cell there; ``given_up_ah`` what
    is not charged. ``ended_by`` is what ends the charge.
    """

    charger: Charger
    kind: VerdictKind
    reasons: tuple[Reason, ...]
    at_end: str
    board_fails: str
    instead: str
    checks: tuple[str, ...]
    stops_share: float
    stops_v: float
    given_up_ah: float
    ended_by: str

    @property
    def words(self) -> str:
        """The verdict in a sentence or two."""
        worst = [item.text for item in self.reasons if item.kind == self.kind]
        return f"{KIND_WORDS[self.kind].capitalize()}: {' '.join(worst)}"


def verdict_on(charger: Charger, setting: ChargeSetting) -> ChargerVerdict:
    """Judge a charger for a pack (methods 33)."""
    reasons = tuple(_reasons(charger, setting))
    kind = max((item.kind for item in reasons), key=WORST.index)
    end_a = end_current(charger)
    share, volts, ended = stops_share(setting, charger.volts, end_a, charger.amps)
    if charger.kind == "nickel":
        share, volts, ended = stops_share(setting, 1e4, charger.amps, charger.amps)
    if charger.kind == "supply" and ended == "end current":
        ended = "nobody"
    share = min(max(share, 0.0), 1.0)
    shown = [item for item in reasons if item.kind == kind] or list(reasons)
    return ChargerVerdict(
        charger, kind, (*shown, *(item for item in reasons if item not in shown)),
        _at_end(charger, setting, ended, share, volts), _board_fails(charger, setting),
        "" if kind == "right" else _instead(setting), _checks(charger, setting), share, volts,
        (1.0 - share) * setting.group_ah, ended,
    )  # fmt: skip


def full_words(share: float) -> str:
    """How full in words, ``share`` from 0 to 1: ``94 % full``."""
    return "practically full" if share >= PRACTICALLY else f"{say(share, '%')} full"


def end_current(charger: Charger) -> float:
    """Where a charger turns off in A: as it says, else a tenth of what it gives."""
    return END_SHARE * charger.amps if charger.end_a is None else charger.end_a


def _reasons(charger: Charger, setting: ChargeSetting) -> Iterator[Reason]:
    yield from _by_volts(charger, setting)
    yield from _by_kind(charger, setting)
    yield from _by_open_volts(charger, setting)
    yield from _by_amps(charger, setting)


def _by_volts(charger: Charger, setting: ChargeSetting) -> Iterator[Reason]:
    if charger.kind == "nickel":
        return
    right, volts = setting.volts.number, charger.volts
    off = volts / right - 1.0
    slip = slip_of(volts, slips(setting))
    looks = "" if slip is None else f" Its volts look like {slip.text}."
    if slip is None and charger.kind != "lead" and swapped_digits(volts, right):
        looks = f" Two digits of {say(right, 'V')} seem swapped."
    said = f"{say(volts, 'V')} where {say(right, 'V')} is right"
    if abs(off) <= TOLERANCE:
        yield Reason("right", "volts", f"It ends at {say(volts, 'V')}, as the pack wants.")
        return
    if off < 0.0:
        share, cell_v, _ = stops_share(setting, volts, end_current(charger), charger.amps)
        share = min(max(share, 0.0), 1.0)
        left = (1.0 - share) * setting.group_ah
        life = " That is easy on the cells." if share > 0.5 else ""
        from_v = None if setting.board is None else setting.board.balance_from_v
        if from_v is not None and cell_v < from_v:
            life += f" The board bleeds from {say(from_v, 'V')}: alike groups never get there."
        yield Reason(
            "short", "volts",
            f"{said}: it stops at {say(cell_v, 'V')} a cell, {full_words(share)}, "
            f"{say(left, 'Ah')} given up.{life}{looks}",
        )  # fmt: skip
        return
    each = volts / setting.series
    other = next(
        (name for name, full in FULL_V.items()
         if name != setting.family and abs(each / full - 1.0) <= OTHER_NEAR),
        None,
    )  # fmt: skip
    over_cell = each / setting.cell.voltage_full_v - 1.0
    if over_cell > OTHER_OVER and other is not None:
        yield Reason(
            "wrong", "chemistry",
            f"{said}: it is made for {setting.series} {CHEMISTRY_NAMES[other]} cells and drives "
            f"these to {say(each, 'V')} each.{looks if slip and other not in slip.code else ''}",
        )  # fmt: skip
    elif over_cell > FAR_OVER:
        yield Reason(
            "wrong", "volts",
            f"{said}: {say(each, 'V')} a cell is far over what it bears.{looks}",
        )  # fmt: skip
    elif over_cell <= TOLERANCE:
        yield Reason(
            "leans", "volts",
            f"{said}: it goes over your ceiling to {say(each, 'V')} a cell, and nothing ends the "
            f"charge at {say(setting.ceiling_v, 'V')}.{looks}",
        )  # fmt: skip
    else:
        yield Reason(
            "leans", "volts",
            f"{said}: only the board ends the charge, one failure from a fire.{looks}",
        )  # fmt: skip


def _by_kind(charger: Charger, setting: ChargeSetting) -> Iterator[Reason]:
    if charger.kind == "nickel":
        yield Reason(
            "leans", "kind",
            "A charger for nickel is a current source: it holds no voltage and ends on a dip or "
            "on warmth that these cells do not show. Only the board ends the charge.",
        )  # fmt: skip
    elif charger.kind == "lead":
        most = charger.volts * EQUALISE_OVER
        over = most / setting.volts.number - 1.0 > TOLERANCE
        if charger.equalise == "on" and over:
            yield Reason(
                "leans", "equalise",
                f"Its equalise stage, some {say(most, 'V')}, is over the pack's "
                f"{say(setting.volts.number, 'V')}: turn it off for good.",
            )  # fmt: skip
        elif charger.equalise == "unknown" and over:
            yield Reason(
                "right", "equalise",
                f"It may have an equalise stage of some {say(most, 'V')}: see that it is off. "
                "Check its numbers with a meter, not its name.",
            )  # fmt: skip
    elif charger.kind == "supply" and not charger.limited:
        yield Reason(
            "leans", "limit",
            "It has no current limit of its own: an empty pack draws what it can give, and only "
            "the board or the fuse ends that.",
        )  # fmt: skip
    elif charger.kind == "supply":
        if charger.low_v is not None:
            yield Reason(
                "right", "band",
                f"At the foot of its band, {say(charger.low_v, 'V')}, nothing flows into a pack "
                "that stands higher: the charge goes on when its volts are back.",
            )  # fmt: skip
        yield Reason(
            "right", "limit",
            f"Set {say(setting.volts.number, 'V')} with nothing connected and the current with "
            "its leads shorted, before the pack is on it. Nothing turns it off: take the pack off "
            f"under {say(end_current(charger), 'A')}.",
        )  # fmt: skip


def _by_open_volts(charger: Charger, setting: ChargeSetting) -> Iterator[Reason]:
    board, shows = setting.board, max(charger.open_v or 0.0, charger.volts)
    if board is None:
        yield Reason("leans", "board", "No board ends a charge that goes wrong.")
        return
    stands = board.switch_v or SWITCHES_OVER * board.series * board.over_voltage_v
    about = "" if board.switch_v else "about "
    if shows > stands:
        yield Reason(
            "wrong", "open-volts",
            f"With nothing connected it shows {say(shows, 'V')}; the switches of {board.name} "
            f"stand {about}{say(stands, 'V')}, and fail closed.",
        )  # fmt: skip
    elif charger.kind == "nickel" and charger.open_v is None:
        yield Reason(
            "leans", "open-volts",
            f"It may show more than twice the pack's volts with nothing connected: measure. Over "
            f"{about}{say(stands, 'V')} the switches of {board.name} fail closed.",
        )  # fmt: skip


def _by_amps(charger: Charger, setting: ChargeSetting) -> Iterator[Reason]:
    amps, most = charger.amps, setting.most_cells.number
    if amps > most * (1.0 + TOLERANCE):
        yield Reason(
            "wrong", "amps",
            f"{say(amps, 'A')} is over the {say(most, 'A')} that the cells take: metal plates out "
            "inside them.",
        )  # fmt: skip
        return
    for limit in setting.limits:
        if amps > limit.number * (1.0 + TOLERANCE):
            yield Reason(
                "leans", "amps",
                f"{say(amps, 'A')} is over the {say(limit.number, 'A')} of "
                f"“{limit.label.lower()}”: a trip, a blown fuse or a warm lead ends it.",
            )  # fmt: skip
    standard = setting.by_cells.number
    if amps > standard * (1.0 + TOLERANCE):
        yield Reason(
            "right", "amps",
            f"{say(amps, 'A')} is over the standard {say(standard, 'A')}, within the most of the "
            "cells: quicker, warmer, harder on them.",
        )  # fmt: skip


def _at_end(
    charger: Charger, setting: ChargeSetting, ended: str, share: float, volts: float
) -> str:
    full = f"{full_words(share)}, {say(volts, 'V')} a cell"
    if charger.kind == "nickel":
        return (
            "Its volts climb at full current until the board cuts off the first full group; then "
            "they jump to what it shows with nothing connected."
        )
    if ended == "board":
        return (
            f"The board cuts off when the first group is at {say(volts, 'V')}, {full_words(share)}."
        )
    if charger.kind == "lead":
        return (
            f"Absorption at {say(charger.volts, 'V')} until its current has fallen ({full}), then "
            f"it floats at some {say(charger.volts * FLOAT_UNDER, 'V')} and gives nothing more."
        )
    if ended == "nobody":
        return f"The current falls at {say(charger.volts, 'V')} ({full}) and nothing turns it off."
    end = say(end_current(charger), "A")
    return f"The current falls at {say(charger.volts, 'V')}; under {end} it turns off ({full})."


def _board_fails(charger: Charger, setting: ChargeSetting) -> str:
    cell, series = setting.cell, setting.series
    if charger.kind == "nickel":
        return "If the board fails, charging never ends: the cells vent and burn."
    each = charger.volts / series
    if charger.kind == "lead" and charger.equalise == "on":
        each *= EQUALISE_OVER
    if each <= cell.voltage_full_v * (1.0 + TOLERANCE):
        return (
            f"If the board fails, the charger still ends at {say(each, 'V')} a cell on average; "
            "a group that is out of step can go over it."
        )
    return f"If the board fails, the cells go to {say(each, 'V')}: they vent and burn."


def _instead(setting: ChargeSetting) -> str:
    right = right_charger(setting)
    return (
        f"Take a certified charger, {CHARGER_KINDS['cccv']}, for {say(right.volts.number, 'V')} "
        f"and up to {say(right.amps.number, 'A')}."
    )


def _checks(charger: Charger, setting: ChargeSetting) -> tuple[str, ...]:
    """What is to be checked on a charger that was rebuilt, or set by hand."""
    if not charger.rebuilt:
        return ()
    right = right_charger(setting)
    return (
        f"With nothing connected: {say(right.volts.number, 'V')}, no more, warm and cold, over an "
        "hour.",
        f"With a load in place of the pack: no more than {say(right.amps.number, 'A')}, down to "
        f"{say(setting.series * setting.cell.voltage_empty_v, 'V')}.",
        "Polarity at the plug, and that nothing flows back when the mains is off.",
        "Its output is apart from the mains: insulation as the label of a certified one.",
        MAINS,
    )
