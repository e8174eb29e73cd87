"""What speaks against a charger besides its set volts: kind, open volts, amps, warmth."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.charger import (
    END_SHARE,
    TOLERANCE,
    ChargeSetting,
)
from lumvak.core.charging.highest import unknown_stages
from lumvak.core.said import Text, in_line, phrase, say, sentences

VerdictKind = Literal["right", "short", "over-ceiling", "leans", "wrong"]


# A board's switches stand so many times what it cuts off at, where its sheet is silent.
SWITCHES_OVER = 1.4
# From here on what is missing is within what a meter tells.
PRACTICALLY = 0.995


class ChargerReason(Struct, frozen=True):
    """One thing about a charger, with the verdict that it alone would make."""

    kind: VerdictKind
    code: str
    text: Text


def full_words(share: float) -> Text:
    """How full in words, ``share`` from 0 to 1: ``94 % full``."""
    return "practically full" if share >= PRACTICALLY else phrase("{} full", say(share, "%"))


def end_current(charger: Charger) -> float:
    """Where a charger turns off in A: as it says, else a tenth of what it gives."""
    return END_SHARE * charger.amps if charger.end_a is None else charger.end_a


def by_kind(charger: Charger, setting: ChargeSetting) -> Iterator[ChargerReason]:
    """What its kind speaks against it: a supply, one for lead or nickel, one for others."""
    if charger.kind == "nickel":
        says = (
            "A charger for nickel is a current source: it holds no voltage and ends on a dip or "
            "on warmth that these cells do not show."
        )
        if setting.cuts_off:
            yield ChargerReason("leans", "kind", sentences(says, "Only the BMS ends the charge."))
        else:
            yield ChargerReason("wrong", "kind", sentences(says, "Nothing ends the charge."))
    elif charger.kind == "lead":
        unknown = unknown_stages(charger)
        if unknown:
            yield ChargerReason("right", "stages", unknown)
    elif charger.kind == "supply" and not charger.limited:
        yield ChargerReason(
            "leans",
            "limit",
            "It has no current limit of its own: an empty pack draws what it can give, and only "
            "the BMS or the fuse ends that.",
        )
    elif charger.kind == "supply":
        if charger.low_v is not None:
            yield ChargerReason(
                "right",
                "band",
                phrase(
                    "At the foot of its band, {}, nothing flows into a pack that stands higher: "
                    "the charge goes on when its volts are back.",
                    say(charger.low_v, "V"),
                ),
            )
        yield ChargerReason(
            "right",
            "limit",
            phrase(
                "Set {} with nothing connected and the current with its leads shorted, before "
                "the pack is on it. Nothing turns it off: take the pack off under {}.",
                say(setting.volts.number, "V"),
                say(end_current(charger), "A"),
            ),
        )


def by_open_volts(charger: Charger, setting: ChargeSetting) -> Iterator[ChargerReason]:
    """What happens where it does not turn off: what ends it then, and what that bears."""
    board, shows = setting.board, max(charger.open_v or 0.0, charger.volts)
    if not setting.cuts_off:
        yield ChargerReason("leans", "board", _nothing_cuts(setting))
    if board is None or setting.over_v is None:
        return
    stands = board.switch_v or SWITCHES_OVER * board.series * board.over_voltage_v
    volts = say(stands, "V") if board.switch_v else phrase("about {}", say(stands, "V"))
    if shows > stands:
        yield ChargerReason(
            "wrong",
            "open-volts",
            phrase(
                "With nothing connected it shows {}; the switches of {} stand {}, and fail closed.",
                say(shows, "V"),
                board.name,
                volts,
            ),
        )
    elif charger.kind == "nickel" and charger.open_v is None:
        yield ChargerReason(
            "leans",
            "open-volts",
            phrase(
                "It may show more than twice the pack's volts with nothing connected: measure. "
                "Over {} the switches of {} fail closed.",
                volts,
                board.name,
            ),
        )


def _nothing_cuts(setting: ChargeSetting) -> Text:
    """Why no board ends a charge that goes wrong."""
    board = setting.board
    if board is None:
        return "No BMS ends a charge that goes wrong, or that of a group that is ahead."
    if setting.over_v is None:
        return phrase("{} balances groups and cuts nothing off: no BMS ends a charge.", board.name)
    return phrase(
        "{} cuts off at {} a cell, over the {} that one bears: too late.",
        board.name,
        say(setting.over_v, "V"),
        say(setting.limit_v, "V"),
    )


def by_warmth(setting: ChargeSetting) -> Iterator[ChargerReason]:
    """Whether the cells are as warm as they must be, and whether anything feels it."""
    cell, celsius = setting.cell, setting.celsius
    if cell.charge_min_c <= celsius <= cell.charge_max_c:
        return
    cold = celsius < cell.charge_min_c
    limit = say(cell.charge_min_c if cold else cell.charge_max_c, "°C")
    what = "metal plates out inside the cells" if cold else "the cells age and may vent"
    said = phrase("At {} nothing may go in, for {}", say(celsius, "°C"), what)
    if setting.senses:
        yield ChargerReason(
            "right",
            "cold" if cold else "hot",
            phrase(
                "{}: the BMS does not begin under {}."
                if cold
                else "{}: the BMS does not begin over {}.",
                said,
                limit,
            ),
        )
    else:
        yield ChargerReason(
            "wrong",
            "cold" if cold else "hot",
            phrase(
                "{}, and nothing here feels it: warm the pack to {} first, and take a BMS with "
                "a sensor."
                if cold
                else "{}, and nothing here feels it: cool the pack to {} first, and take a BMS "
                "with a sensor.",
                said,
                limit,
            ),
        )


def by_amps(charger: Charger, setting: ChargeSetting) -> Iterator[ChargerReason]:
    """More amps than cells, board or leads bear."""
    amps, most = charger.amps, setting.most_cells.number
    if amps > most * (1.0 + TOLERANCE):
        yield ChargerReason(
            "wrong",
            "amps",
            phrase(
                "{} is over the {} that the cells take: metal plates out inside them.",
                say(amps, "A"),
                say(most, "A"),
            ),
        )
        return
    for limit in setting.limits:
        if amps > limit.number * (1.0 + TOLERANCE):
            yield ChargerReason(
                "leans",
                "amps",
                phrase(
                    "{} is over the {} of “{}”: a trip, a blown fuse or a warm lead ends it.",
                    say(amps, "A"),
                    say(limit.number, "A"),
                    in_line(limit.label),
                ),
            )
    standard = setting.by_cells.number
    if amps > standard * (1.0 + TOLERANCE):
        yield ChargerReason(
            "right",
            "amps",
            phrase(
                "{} is over the standard {}, within the most of the cells: quicker, warmer, "
                "harder on them.",
                say(amps, "A"),
                say(standard, "A"),
            ),
        )
