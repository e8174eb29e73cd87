"""A charger in hand: right, short, leaning on the board, or wrong; and what to take instead."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from msgspec import Struct

from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.catalogue.chargers import CHARGER_KINDS, Charger
from lumvak.core.charging.charger import (
    FULL_V,
    TOLERANCE,
    ChargeSetting,
    checks_of,
    right_charger,
    slip_of,
    slips,
    stops_share,
    swapped_digits,
)
from lumvak.core.charging.highest import Highest, board_fails, highest_of
from lumvak.core.charging.reasons import (
    ChargerReason,
    VerdictKind,
    by_amps,
    by_kind,
    by_open_volts,
    by_warmth,
    end_current,
    full_words,
)
from lumvak.core.said import Text, capital, phrase, say, sentences

KIND_WORDS: dict[VerdictKind, str] = {
    "right": "right",
    "short": "undercharges",
    "over-ceiling": "over your charge limit",
    "leans": "relies on the BMS cut-off",
    "wrong": "wrong",
}
ALONE = "relies on itself alone"
WORST: tuple[VerdictKind, ...] = ("right", "short", "over-ceiling", "leans", "wrong")
# Volts so near to those of another chemistry are made for it.
OTHER_NEAR = 0.015
# So far over a full cell a board may end a charge; beyond it two failures are too few (methods 33).
LEANS_OVER = {"cobalt": 0.01, "phosphate": 0.02, "sodium": 0.01, "titanate": 0.01}
# Float of a charger for lead under its absorption, as a share.
FLOAT_UNDER = 13.6 / 14.4


class ChargerVerdict(Struct, frozen=True):
    """What is to be said of a charger.

    ``stops_share`` is where it stops, ``stops_v`` the volts of a cell there; ``given_up_ah`` what
    is not charged. ``ended_by`` is what ends the charge. ``highest`` are the most volts that it can
    show, ``alone`` is whether no board would end the charge, ``cell_full_v`` where a cell is full.
    """

    charger: Charger
    kind: VerdictKind
    reasons: tuple[ChargerReason, ...]
    at_end: Text
    board_fails: Text
    instead: Text
    checks: tuple[Text, ...]
    stops_share: float
    stops_v: float
    given_up_ah: float
    ended_by: str
    highest: Highest
    alone: bool
    cell_full_v: float

    @property
    def stop(self) -> bool:
        """Whether it must not be connected."""
        return self.kind == "wrong"

    @property
    def how_full(self) -> Text:
        """How full it makes the cells, in words; nothing over full is called full."""
        return phrase("overcharged") if self.overcharges else full_words(self.stops_share)

    @property
    def overcharges(self) -> bool:
        """Whether it drives the cells over full, and no board ends it."""
        full_v = self.cell_full_v * (1.0 + TOLERANCE)
        return self.stops_v > full_v and self.ended_by != "board"

    @property
    def kind_words(self) -> str:
        """The kind of verdict in words."""
        return ALONE if self.kind == "leans" and self.alone else KIND_WORDS[self.kind]

    @property
    def words(self) -> Text:
        """The verdict in a sentence or two."""
        worst = [item.text for item in self.reasons if item.kind == self.kind]
        return phrase("{}: {}", capital(self.kind_words), sentences(*worst))


def verdict_on(charger: Charger, setting: ChargeSetting) -> ChargerVerdict:
    """Judge a charger for a pack (methods 33)."""
    reasons = tuple(_reasons(charger, setting))
    kind = max((item.kind for item in reasons), key=WORST.index)
    end_a = end_current(charger)
    highest = highest_of(charger, setting.celsius)
    hold_v = 1e4 if charger.kind == "nickel" else highest.volts
    end_a = charger.amps if charger.kind == "nickel" else end_a
    share, volts, ended = stops_share(setting, hold_v, end_a, charger.amps)
    if charger.kind == "supply" and ended == "end current":
        ended = "nobody"
    share = min(max(share, 0.0), 1.0)
    shown = [item for item in reasons if item.kind == kind] or list(reasons)
    return ChargerVerdict(
        charger,
        kind,
        reasons=(*shown, *(item for item in reasons if item not in shown)),
        at_end=_at_end(charger, setting, ended, share, volts),
        board_fails=board_fails(charger, setting, highest),
        instead=_instead(setting, highest, kind),
        checks=checks_of(charger, setting),
        stops_share=share,
        stops_v=volts,
        given_up_ah=(1.0 - share) * setting.group_ah,
        ended_by=ended,
        highest=highest,
        alone=not setting.cuts_off,
        cell_full_v=setting.cell.voltage_full_v,
    )


def _reasons(charger: Charger, setting: ChargeSetting) -> Iterator[ChargerReason]:
    yield from _by_volts(charger, setting)
    yield from by_kind(charger, setting)
    yield from by_open_volts(charger, setting)
    yield from by_amps(charger, setting)
    yield from by_warmth(setting)


def _looks(charger: Charger, setting: ChargeSetting) -> Text:
    """What the volts of a charger look like, where they are not the right ones."""
    right = setting.volts.number
    slip = slip_of(charger.volts, slips(setting))
    if slip is not None:
        return phrase("Its volts look like {}.", slip.text)
    if charger.kind != "lead" and swapped_digits(charger.volts, right):
        return phrase("Two digits of {} seem swapped.", say(right, "V"))
    return ""


def _by_volts(charger: Charger, setting: ChargeSetting) -> Iterator[ChargerReason]:
    """By what it is set to where that is low, and by the highest that it can show."""
    if charger.kind == "nickel":
        return
    right, highest = setting.volts.number, highest_of(charger, setting.celsius)
    looks = _looks(charger, setting)
    if charger.volts / right - 1.0 < -TOLERANCE:
        yield ChargerReason("short", "volts", sentences(_short(charger, setting), looks))
    if highest.volts / right - 1.0 <= TOLERANCE:
        if charger.volts / right - 1.0 >= -TOLERANCE:
            ends = phrase("It ends at {}, as the pack wants.", say(charger.volts, "V"))
            yield ChargerReason("right", "volts", ends)
        return
    yield _over(charger, setting, highest, looks if highest.why == "set" else "")


def _short(charger: Charger, setting: ChargeSetting) -> Text:
    """What is given up with a charger that is set low."""
    volts = charger.volts
    share, cell_v, _ = stops_share(setting, volts, end_current(charger), charger.amps)
    share = min(max(share, 0.0), 1.0)
    left = (1.0 - share) * setting.group_ah
    stops = phrase(
        "{} where {} is right: it stops at {} a cell, {}, {} given up.",
        say(volts, "V"),
        say(setting.volts.number, "V"),
        say(cell_v, "V"),
        full_words(share),
        say(left, "Ah"),
    )
    easy = "That is easy on the cells." if share > 0.5 else ""
    from_v = None if setting.board is None else setting.board.balance_from_v
    bleeds: Text = ""
    if from_v is not None and cell_v < from_v:
        bleeds = phrase("The BMS bleeds from {}: alike groups never get there.", say(from_v, "V"))
    return sentences(stops, easy, bleeds)


def _over(charger: Charger, setting: ChargeSetting, highest: Highest, looks: Text) -> ChargerReason:
    """The verdict on a charger that can go over what the pack wants."""
    each = highest.volts / setting.series
    right = say(setting.volts.number, "V")
    said = capital(phrase("{} where {} is right", highest.shows(say(highest.volts, "V")), right))
    code = "volts" if highest.why == "set" else highest.why
    kind, text = _over_full(setting, said, each)
    if (
        kind != "over-ceiling"
        and each / setting.cell.voltage_full_v - 1.0 > LEANS_OVER[setting.family]
    ):
        other = next(
            (
                name
                for name, full in FULL_V.items()
                if highest.why == "set"
                and name != setting.family
                and abs(each / full - 1.0) <= OTHER_NEAR
            ),
            None,
        )
        if other is not None:
            slip = slip_of(charger.volts, slips(setting))
            named = slip is not None and slip.code == f"as-{other}"
            made_for = phrase(
                "{}: it is made for {} {} cells and drives these to {} each.",
                said,
                setting.series,
                FAMILY_NAMES[other],
                say(each, "V"),
            )
            return ChargerReason("wrong", "chemistry", sentences(made_for, "" if named else looks))
    return ChargerReason(kind, code, sentences(text, looks))


class _OverFull(NamedTuple):
    """The verdict on what is driven over full, and why."""

    kind: VerdictKind
    text: Text


def _over_full(setting: ChargeSetting, said: Text, each: float) -> _OverFull:
    """The verdict by how far a cell is driven, at ``each`` V, and why."""
    over_cell = each / setting.cell.voltage_full_v - 1.0
    if over_cell <= TOLERANCE:
        return _OverFull(
            "over-ceiling",
            phrase(
                "{}: it goes over your charge limit to {} a cell, within what the cell bears; "
                "nothing "
                "ends the charge at {}.",
                said,
                say(each, "V"),
                say(setting.ceiling_v, "V"),
            ),
        )
    if over_cell > LEANS_OVER[setting.family]:
        return _OverFull(
            "wrong",
            phrase(
                "{}: {} a cell, {} over full. No single failure then leaves the cells within what "
                "they bear.",
                said,
                say(each, "V"),
                say(over_cell, "%"),
            ),
        )
    if setting.cuts_off and setting.over_v is not None and each <= setting.over_v:
        return _OverFull(
            "leans",
            phrase(
                "{}: {} a cell, over full, and under the {} at which the BMS cuts off. They age "
                "faster, and for a group that is ahead only the BMS ends the charge.",
                said,
                say(each, "V"),
                say(setting.over_v, "V"),
            ),
        )
    if setting.cuts_off:
        return _OverFull(
            "leans", phrase("{}: only the BMS ends the charge, one failure from a fire.", said)
        )
    return _OverFull("wrong", phrase("{}: over full, and nothing ends the charge.", said))


def _at_end(
    charger: Charger, setting: ChargeSetting, ended: str, share: float, volts: float
) -> Text:
    over = volts > setting.cell.voltage_full_v * (1.0 + TOLERANCE)
    words = phrase("overcharged") if over and ended != "board" else full_words(share)
    full, set_v = phrase("{}, {} a cell", words, say(volts, "V")), say(charger.volts, "V")
    if charger.kind == "nickel" and setting.over_v is None:
        return "Its volts climb at full current, and nothing ends it: the cells vent and burn."
    if charger.kind == "nickel":
        return (
            "Its volts climb at full current until the BMS cuts off the first full group; then "
            "they jump to what it shows with nothing connected."
        )
    if ended == "board":
        cut = "The BMS cuts off when the first group is at {}, {}."
        return phrase(cut, say(volts, "V"), full_words(share))
    if charger.kind == "lead":
        return phrase(
            "Absorption at {} until its current has fallen ({}), then it floats at some {} "
            "and gives nothing more.",
            set_v,
            full,
            say(charger.volts * FLOAT_UNDER, "V"),
        )
    if ended == "nobody":
        return phrase("The current falls at {} ({}) and nothing turns it off.", set_v, full)
    end = say(end_current(charger), "A")
    return phrase("The current falls at {}; under {} it turns off ({}).", set_v, end, full)


def _instead(setting: ChargeSetting, highest: Highest, kind: VerdictKind) -> Text:
    if kind == "right":
        return ""
    right = right_charger(setting)
    take = "Take a certified charger, {}, for {} and up to {}."
    mend = highest.mend if kind in ("leans", "wrong") else ""
    if mend:
        take = "Or take a certified charger, {}, for {} and up to {}."
    volts, amps = say(right.volts.number, "V"), say(right.amps.number, "A")
    return sentences(mend, phrase(take, CHARGER_KINDS["cccv"], volts, amps))
